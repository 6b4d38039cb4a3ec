import type { Settings } from '@tombolo/contract';
import { formatMHz, REGIONS, writtenForms, type RegionId } from '@tombolo/core';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { TypedPosition } from '../tools/position/typed-position';
import { WrittenForms } from '../tools/position/written-forms';

/** Region, for frequency and customs, and position, for distances. */
export function Where({ settings, next }: { settings: Settings; next: () => void }) {
  const keep = useChange(api.changeSettings, ['settings']);
  return (
    <Stack gap={8}>
      <Heading level={2}>Where</Heading>
      <Choice<RegionId>
        label="Region"
        value={settings.region}
        onChange={(region) => keep.mutate({ region })}
        options={REGIONS.map(({ id, name, packetMHz }) => ({
          id,
          title: name,
          hint:
            packetMHz === null
              ? 'The local plan says on which frequency packets are sent.'
              : `Packets on ${formatMHz(packetMHz)} MHz by custom; the local plan comes first.`,
        }))}
      />
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept">
          {keep.error.message}
        </Notice>
      ) : null}
      {settings.position ? <WrittenForms forms={writtenForms(settings.position)} /> : null}
      <TypedPosition settings={settings} />
      <Body soft>
        For distances and bearings. Nobody learns it from us unless you send it, start a beacon, or allow answers. A
        position receiver can be set up later, under Tools, Position.
      </Body>
      <Button title="Go on" onPress={next} />
    </Stack>
  );
}
