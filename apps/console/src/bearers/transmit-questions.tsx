import { transmitLocks, type Settings } from '@tombolo/contract';
import { api } from '../live/api';
import { useChange } from '../live/queries';
import { Button } from '../ui/button';
import { CheckRow } from '../ui/choice';
import { Notice } from '../ui/page';
import { Body } from '../ui/text';

/** The questions that hold the transmitter, answered where they are met. */
export function TransmitQuestions({ settings }: { settings: Settings }) {
  const change = useChange(api.changeSettings, ['settings']);
  const locked = transmitLocks(settings).length > 0;
  return (
    <Notice title={locked ? 'The transmitter is locked until these are answered' : 'The transmitter is unlocked'}>
      {settings.call === '' ? (
        <>
          <Body>Your call sign is not set.</Body>
          <Button title="Set it in Settings" kind="plain" href="/tools/settings" />
        </>
      ) : null}
      <CheckRow
        label={`I hold a licence that covers transmitting as ${settings.call || 'my call sign'} on this frequency`}
        checked={settings.licenceConfirmed}
        onChange={(licenceConfirmed) => change.mutate({ licenceConfirmed })}
      />
      <CheckRow
        label="An antenna is connected to the radio"
        hint="Transmitting without one can destroy the output stage."
        checked={settings.antennaConfirmed}
        onChange={(antennaConfirmed) => change.mutate({ antennaConfirmed })}
      />
      {change.isError ? <Body>{change.error.message}</Body> : null}
    </Notice>
  );
}
