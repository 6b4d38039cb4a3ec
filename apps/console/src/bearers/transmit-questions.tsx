import { locksOf, transmitLocks, type Settings, type SettingsChange, type WaitingView } from '@tombolo/contract';
import { useState } from 'react';
import { api } from '../live/api';
import { useChange } from '../live/queries';
import { Button } from '../ui/button';
import { CheckRow } from '../ui/choice';
import { Notice } from '../ui/page';
import { Body } from '../ui/text';
import { BeforeUnlocking } from './before-unlocking';

interface TransmitQuestionsProps {
  settings: Settings;
  /** A bearer that needs no licence does not ask for one. */
  licence?: boolean;
}

/** What waits for a bearer that this answer would open, and what it would be answered with. */
interface Asked {
  readonly waiting: readonly WaitingView[];
  readonly change: SettingsChange;
}

/** The questions that hold the transmitter, answered where they are met. Where something waits, it is shown before it goes. */
export function TransmitQuestions({ settings, licence = true }: TransmitQuestionsProps) {
  const [asked, setAsked] = useState<Asked | null>(null);
  const answer = useChange(
    async (change: SettingsChange) => {
      const after = { ...settings, ...change };
      const opens = transmitLocks(after).length < transmitLocks(settings).length;
      const waiting = opens ? (await api.waiting()).filter(({ kind }) => locksOf(kind, after).length === 0) : [];
      if (waiting.length > 0) setAsked({ waiting, change });
      else await api.changeSettings(change);
    },
    ['settings'],
  );
  const locked = licence ? transmitLocks(settings).length > 0 : !settings.antennaConfirmed;
  const words = `The transmitter is locked until ${licence ? 'these are' : 'this is'} answered`;
  return (
    <Notice title={locked ? words : 'The transmitter is unlocked'}>
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
          onChange={(licenceConfirmed) => answer.mutate({ licenceConfirmed })}
        />
      ) : null}
      <CheckRow
        label="An antenna is connected to the radio"
        hint="Transmitting without one can destroy the output stage."
        checked={settings.antennaConfirmed}
        onChange={(antennaConfirmed) => answer.mutate({ antennaConfirmed })}
      />
      {answer.isError ? <Body>{answer.error.message}</Body> : null}
      {asked ? (
        <BeforeUnlocking
          waiting={asked.waiting}
          held={settings.heldSince !== null}
          unlock={() => api.changeSettings(asked.change)}
          close={() => setAsked(null)}
        />
      ) : null}
    </Notice>
  );
}
