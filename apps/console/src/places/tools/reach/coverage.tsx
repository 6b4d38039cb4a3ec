import { PACKET_SETTINGS, SERVED, type ModemSetting, type Position, type RadioEnd, type Served } from '@tombolo/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { useWork } from '../../../live/work';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Row, Stack } from '../../../ui/layout';
import { Measured } from '../../../ui/measured';
import { Notice, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { areaAround } from './area';
import { useGround } from './at-station';
import { coverageWorker } from './coverage-worker';
import type { CoveredAsked, CoveredTold } from './covered';
import { CoveragePicture, HATCHED_WORDS } from './coverage-picture';

const RADII_KM = ['10', '25', '50'] as const;
type Radius = (typeof RADII_KM)[number];
const STEP_KM = 0.1;

interface CoverageProps {
  from: Position & { readonly words: string };
  ends: { readonly from: RadioEnd; readonly to: RadioEnd };
  frequencyMHz: number;
  settings: readonly ModemSetting[];
  /** Drawn where they are. */
  stations: readonly (Position & { readonly call: string })[];
}

/** Where a station would be heard, and would hear, over all the ground around it; reckoned beside the page, on demand. */
export function Coverage({ from, ends, frequencyMHz, settings, stations }: CoverageProps) {
  const [radius, setRadius] = useState<Radius>('25');
  const [needs, setNeeds] = useState(settings[0]?.id ?? '');
  const setting = settings.find(({ id }) => id === needs) ?? settings[0] ?? PACKET_SETTINGS[0]!;
  // What was asked when the button was pressed: what is typed on does not start it again.
  const [wanted, want] = useState<{ readonly asked: Omit<CoveredAsked, 'heights'>; readonly words: string } | null>(
    null,
  );
  const ground = useGround(wanted?.asked.area ?? null);
  const asked = useMemo(
    (): CoveredAsked | null => (wanted && ground.data ? { ...wanted.asked, heights: ground.data.heights } : null),
    [wanted, ground.data],
  );
  const { told, fault } = useWork<CoveredAsked, CoveredTold>(coverageWorker, asked);
  const entered: NonNullable<typeof wanted> = {
    asked: {
      area: areaAround(from, Number(radius), STEP_KM),
      from: { latitude: from.latitude, longitude: from.longitude },
      station: ends.from,
      other: ends.to,
      frequencyMHz,
      neededDbm: setting.sensitivityDbm,
    },
    words: `${from.words}, ${setting.words}, within ${radius} km`,
  };
  const changed = wanted !== null && JSON.stringify(wanted) !== JSON.stringify(entered);
  const under = wanted !== null && fault === null && told?.what !== 'picture' && !ground.isError;
  return (
    <Stack above={24}>
      <Heading level={2}>Where it is heard</Heading>
      <Body soft below={8}>
        By the map alone: for somebody with what is entered at the far end, anywhere around the start. Both directions
        count: an answer has to come back.
      </Body>
      <Choice<Radius>
        label="How far around"
        value={radius}
        onChange={setRadius}
        options={RADII_KM.map((id) => ({ id, title: `${id} km` }))}
      />
      <Choice<string>
        label="With"
        value={setting.id}
        onChange={setNeeds}
        options={settings.map(({ id, words }) => ({ id, title: words }))}
      />
      <Row wrap gap={8}>
        <Button
          title="Draw where it is heard"
          icon="antenna"
          onPress={() => want(entered)}
          disabled={under ? 'It is being drawn.' : false}
        />
        {under ? <Button title="Stop drawing" kind="plain" onPress={() => want(null)} /> : null}
      </Row>
      <View aria-live="polite">
        {wanted && ground.isPending ? <Waiting what="the ground around" /> : null}
        {ground.isError ? <Trouble error={ground.error} retry={() => void ground.refetch()} /> : null}
        {fault ? <Notice title="It cannot be drawn">{fault}</Notice> : null}
        {told?.what === 'progress' ? <Body>{`${Math.round(100 * told.share)} % is reckoned.`}</Body> : null}
      </View>
      {wanted && told?.what === 'picture' ? (
        <Stack above={8}>
          <Heading level={3}>{wanted.words}</Heading>
          {changed ? <Body bold>What is entered has changed since this was drawn: draw it anew.</Body> : null}
          {ground.data && ground.data.missing.length > 0 ? (
            <Notice title="Elevation is missing">
              {`Without the tiles ${ground.data.missing.map((name) => `${name}.hgt`).join(', ')} the ground there was taken as sea.`}
            </Notice>
          ) : null}
          <Measured>
            {(width) => (
              <CoveragePicture
                area={wanted.asked.area}
                land={told.land}
                served={told.served}
                station={{ ...from, call: from.words }}
                stations={stations}
                width={Math.min(width, 640)}
                title={`Where ${wanted.words} is heard, north at the top. ${areaWords(told.areaKm2)}`}
              />
            )}
          </Measured>
          <View role="list" aria-label="Where it is heard, in square kilometres">
            {SERVED.map((kind) => (
              <Row role="listitem" key={kind} wrap columnGap={12}>
                <Body bold minWidth={120}>{`${capital(kind)} heard`}</Body>
                <Body
                  soft
                >{`${HATCHED_WORDS[kind]}; ${square(told.areaKm2.land[kind])} of land, ${square(told.areaKm2.sea[kind])} of sea`}</Body>
              </Row>
            ))}
          </View>
        </Stack>
      ) : null}
    </Stack>
  );
}

const square = (km2: number): string => `${km2 < 10 ? km2.toFixed(1) : Math.round(km2)} km²`;
const capital = (word: string): string => word[0]!.toUpperCase() + word.slice(1);

function areaWords({ land }: Extract<CoveredTold, { what: 'picture' }>['areaKm2']): string {
  const all = SERVED.reduce((sum, kind: Served) => sum + land[kind], 0);
  if (all < 0.1) return 'No land is known there.';
  return `Of ${square(all)} of land ${square(land.well)} well and ${square(land.mostly)} mostly.`;
}
