import type { StationView } from '@tombolo/contract';
import type { DistanceUnit } from '@tombolo/core';
import { memo } from 'react';
import { useTimed } from '../../ui/clock';
import { Icon } from '../../ui/icon';
import { Link } from '../../ui/link';
import { useLook } from '../../ui/look';
import { whereWords } from '../../ui/quantity';
import { Body, Mono, Spoken } from '../../ui/text';
import { age } from '../../ui/time';
import { meaningOf, SYMBOL_ICONS } from './symbols';
import { motionWords } from './words';
import { Row, Stack } from '../../ui/layout';
import { inList } from '../../ui/repeated';

interface StationRowProps {
  station: StationView;
  unit: DistanceUnit;
  selected: boolean;
  onPress: (call: string) => void;
}

/** One station in three lines: who and where, what it says, how it was heard. */
export const StationRow = memo(function StationRow({ station, unit, selected, onPress }: StationRowProps) {
  const look = useLook();
  const meaning = meaningOf(station);
  const where = whereWords(station, unit);
  const motion = motionWords(station, unit);
  const old = useTimed((now) => age(station.lastAt, now));
  const says = [station.comment, station.status].filter(Boolean).join(' – ');
  return (
    <Link
      href={`/chart/station?call=${encodeURIComponent(station.call)}`}
      go={() => onPress(station.call)}
      current={selected ? 'true' : undefined}
      row
      gap={12}
      padX={16}
      {...inList(selected)}
      align="start"
      minHeight={56}
    >
      <Icon name={SYMBOL_ICONS[meaning]} size={26} color={look.inkSoft} />
      <Stack fill minWidth={0}>
        <Row wrap columnGap={10} align="baseline" justify="between">
          <Mono bold numberOfLines={1} shrink={1}>
            {station.name}
          </Mono>
          <Spoken>{meaning}</Spoken>
          <Mono soft size={14}>
            {where ?? 'no position'}
          </Mono>
        </Row>
        {says || motion ? (
          <Body numberOfLines={1}>
            {[motion && motion !== 'standing' ? motion : null, says].filter(Boolean).join(', ')}
          </Body>
        ) : null}
        <Body soft size={15} line={20}>
          {`${station.words}, ${old} ago${station.muted ? ' – muted' : ''}${station.live ? '' : ' – taken off'}`}
        </Body>
        {station.conflict ? (
          <Body tone="alarm" size={15} line={20}>
            {station.conflict}
          </Body>
        ) : null}
      </Stack>
    </Link>
  );
});
