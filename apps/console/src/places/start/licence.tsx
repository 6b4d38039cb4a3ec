import type { Settings } from '@tombolo/contract';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow } from '../../ui/choice';
import { Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';

/** What a licence opens, and what stays locked without one. */
export function Licence({ settings, next }: { settings: Settings; next: () => void }) {
  const keep = useChange(api.changeSettings, ['settings']);
  return (
    <Stack gap={8}>
      <Heading level={2}>Licence</Heading>
      <Body>
        Packets, bulletin boards and radio mail cross amateur bands: transmitting there needs a licence that covers it,
        everywhere. Your licence, your local rules and your agency’s plan come first.
      </Body>
      {settings.call === '' ? (
        <Notice title="Without a call sign there is nothing to confirm">
          <Body>You hear and read everything. A mesh on a licence-free band needs none, to send either.</Body>
          <Button title="Enter a call sign" kind="plain" href="/start?step=who" />
        </Notice>
      ) : (
        <CheckRow
          label={`I hold a licence that covers transmitting as ${settings.call}`}
          hint="Until you say so everything is received, written and kept, and nothing goes out on an amateur band."
          checked={settings.licenceConfirmed}
          onChange={(licenceConfirmed) => keep.mutate({ licenceConfirmed })}
        />
      )}
      <Body soft>
        Whether an antenna is connected is asked before the first transmission: a transmitter without one can destroy
        its output stage.
      </Body>
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept">
          {keep.error.message}
        </Notice>
      ) : null}
      <Button title="Go on" onPress={next} />
    </Stack>
  );
}
