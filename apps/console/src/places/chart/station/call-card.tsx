import type { StationDetail } from '@tombolo/contract';
import { DIRECT_RANGE_MS, radioSetting } from '@tombolo/core';
import { router } from 'expo-router';
import { Button } from '../../../ui/button';
import { useNow } from '../../../ui/clock';
import { Row, Stack } from '../../../ui/layout';
import { Body, Heading, Mono } from '../../../ui/text';
import { useDrafts } from '../../../drafts/drafts';

/** How to call it: by text in one tap, by voice where it says on what frequency. */
export function CallCard({ station }: { station: StationDetail }) {
  const now = useNow(30_000);
  const writeTo = useDrafts((store) => store.writeTo);
  const { frequency, messaging, directAt } = station;
  const direct = directAt !== null && now - Date.parse(directAt) <= DIRECT_RANGE_MS;
  return (
    <Stack above={16} gap={6}>
      <Heading level={2}>Call it</Heading>
      {station.kind === 'node' ? <WriteByMesh station={station} /> : null}
      {station.kind === 'station' ? (
        <>
          <Body>
            {messaging === true
              ? 'It takes texts.'
              : messaging === false
                ? 'It says that it takes no texts: one may still reach its operator another way.'
                : 'Whether it takes texts it has not said.'}
          </Body>
          <Stack align="start">
            <Button
              title="Write"
              about={station.name}
              icon="pencil-outline"
              kind={messaging === false ? 'plain' : 'main'}
              onPress={() => {
                const draft = writeTo({ addressee: station.call, answers: null, way: 'radio' });
                router.navigate(`/write?draft=${draft}`);
              }}
            />
          </Stack>
        </>
      ) : null}
      {frequency ? (
        <Stack role="list" aria-label="How to set the radio" above={4}>
          {radioSetting(frequency).map(({ what, value }) => (
            <Row role="listitem" key={what} justify="between" gap={12} wrap padY={6} ruled>
              <Body soft>{what}</Body>
              <Mono bold>{value}</Mono>
            </Row>
          ))}
          <Body soft above={4}>
            As it says itself. Listen first; transmit only where your licence and the local band plan allow it.
          </Body>
        </Stack>
      ) : station.kind === 'node' ? null : (
        <Body soft>It names no frequency for voice.</Body>
      )}
      {direct ? (
        <Stack align="start">
          <Button title="In direct range: voice alert" kind="plain" href="/chart/calling" />
        </Stack>
      ) : null}
    </Stack>
  );
}

/** A node takes texts of its mesh alone. */
function WriteByMesh({ station }: { station: StationDetail }) {
  const writeTo = useDrafts((store) => store.writeTo);
  return (
    <Stack align="start" gap={6}>
      <Body>It is a node of a mesh: texts reach it over the mesh.</Body>
      <Button
        title="Write by mesh"
        about={station.name}
        icon="pencil-outline"
        onPress={() => {
          const draft = writeTo({ addressee: station.call, answers: null, way: 'mesh' });
          router.navigate(`/write?draft=${draft}`);
        }}
      />
    </Stack>
  );
}
