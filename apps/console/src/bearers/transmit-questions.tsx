import { transmitLocks, type Settings } from '@tombolo/contract';
import { api } from '../live/api';
import { useChange } from '../live/queries';
import { Button } from '../ui/button';
import { CheckRow } from '../ui/choice';
import { Notice } from '../ui/page';
import { Body } from '../ui/text';

/** The questions that hold the transmitter, answered where they are met; a bearer that needs no licence does not ask for one. */
export function TransmitQuestions({ settings, licence = true }: { settings: Settings; licence?: boolean }) {
  const change = useChange(api.changeSettings, ['settings']);
  const locked = licence ? transmitLocks(settings).length > 0 : !settings.antennaConfirmed;
  return (
    <Notice
      title={
        locked
          ? `The transmitter is locked until ${licence ? 'these are' : 'this is'} answered`
          : 'The transmitter is unlocked'
      }
    >
      {licence && settings.call === '' ? (
        <>
          <Body>Your call sign is not set.</Body>
          <Button title="Set it in Settings" kind="plain" href="/tools/settings" />
        </>
      ) : null}
      {licence ? (
        <CheckRow
          label={`I hold a licence that covers transmitting as ${settings.call || 'my call sign'} on this frequency`}
          checked={settings.licenceConfirmed}
          onChange={(licenceConfirmed) => change.mutate({ licenceConfirmed })}
        />
      ) : null}
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
