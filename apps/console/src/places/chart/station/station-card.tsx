import type { StationView } from '@tombolo/contract';
import type { DistanceUnit } from '@tombolo/core';
import { router } from 'expo-router';
import { Button } from '../../../ui/button';
import { Icon } from '../../../ui/icon';
import { Row, Stack } from '../../../ui/layout';
import { whereWords } from '../../../ui/quantity';
import { Body, Mono } from '../../../ui/text';
import { age } from '../../../ui/time';
import { useDrafts } from '../../../drafts/drafts';
import { isReported, meaningOf, SYMBOL_ICONS } from '../symbols';
import { motionWords } from '../words';

interface StationCardProps {
  station: StationView;
  unit: DistanceUnit;
  now: number;
  close: () => void;
}

/** What was tapped on the map of a phone: the least that one must know, and the ways on. */
export function StationCard({ station, unit, now, close }: StationCardProps) {
  const writeTo = useDrafts((store) => store.writeTo);
  return (
    <Stack role="region" aria-label={`Chosen: ${station.name}`} pad={12} gap={6} ruledAbove ground="leaf">
      <Row gap={10} align="center">
        <Icon name={SYMBOL_ICONS[meaningOf(station)]} size={26} />
        <Mono bold size={18} fill>
          {station.name}
        </Mono>
        <Mono soft>{whereWords(station, unit) ?? ''}</Mono>
      </Row>
      <Body>{`${station.words}, ${age(station.lastAt, now)} ago`}</Body>
      <Body soft numberOfLines={1}>
        {[motionWords(station, unit), station.comment].filter(Boolean).join(', ')}
      </Body>
      <Row wrap gap={8}>
        <Button title="All about it" href={`/chart/station?call=${encodeURIComponent(station.call)}`} />
        {isReported(station) ? null : (
          <Button
            title="Write"
            about={station.name}
            kind="plain"
            onPress={() => {
              const way = station.kind === 'node' ? 'mesh' : 'radio';
              const draft = writeTo({ addressee: station.call, answers: null, way });
              router.navigate(`/write?draft=${draft}`);
            }}
          />
        )}
        {station.latitude === null ? null : (
          <Button
            title="Reach"
            about={station.name}
            kind="plain"
            href={`/tools/reach?to=${encodeURIComponent(station.call)}`}
          />
        )}
        <Button title="Close" kind="plain" onPress={close} />
      </Row>
    </Stack>
  );
}
