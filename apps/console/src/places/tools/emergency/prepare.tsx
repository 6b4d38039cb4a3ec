import { transmitLocks, type EmergencyNow, type Settings } from '@tombolo/contract';
import {
  checkEmergencyWords,
  encodeOwnEmergency,
  MOST_EMERGENCY_OCTETS,
  octetsOfText,
  symbolOf,
  textOfOctets,
} from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { TransmitQuestions } from '../../../bearers/transmit-questions';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { emergencyAtStation } from './at-station';
import { Countdown } from './countdown';

/** What would go out, and the first of two presses. */
export function Prepare({ settings, now }: { settings: Settings; now: EmergencyNow }) {
  const [kind, setKind] = useState<'real' | 'drill'>('real');
  const [words, setWords] = useState('');
  const [counting, setCounting] = useState(false);
  const call = useChange(emergencyAtStation.call, ['emergency', 'settings', 'transmissions']);
  const drill = kind === 'drill';
  const checked = checkEmergencyWords(words.trim());
  const locked = transmitLocks(settings).length > 0;
  const modems = now.over.filter(({ stopped }) => stopped === null);
  const send = () => {
    setCounting(false);
    call.mutate({ drill, words: words.trim() });
  };
  if (counting)
    return (
      <Countdown
        what={drill ? 'The drill' : 'The call for help'}
        over={modems.map(({ name }) => name).join(', ')}
        send={send}
        cancel={() => setCounting(false)}
      />
    );
  return (
    <View>
      <Heading level={2}>What goes out</Heading>
      <Choice<'real' | 'drill'>
        label="For what"
        value={kind}
        onChange={setKind}
        options={[
          {
            id: 'real',
            title: 'Life is in danger',
            hint: 'Stations that watch for it raise an alarm when they hear it.',
          },
          {
            id: 'drill',
            title: 'A drill',
            hint: 'Marked as one in its first words, and sent under your usual symbol.',
          },
        ]}
      />
      <Field
        label="What happened"
        value={words}
        onChangeText={setWords}
        error={checked.ok ? undefined : checked.error.reason}
        hint={`${octetsOfText(words.trim()).length} of ${MOST_EMERGENCY_OCTETS} octets; who, what, how many – or nothing`}
      />
      <WhatGoesOut settings={settings} now={now} drill={drill} words={words.trim()} />
      {locked ? <TransmitQuestions settings={settings} /> : null}
      {locked && !settings.licenceConfirmed && !drill ? (
        <Body below={12}>
          In immediate danger to life the rules of most countries let any station call for help by whatever means it has
          (in the United States 47 CFR 97.403 and 97.405). Whether that is so here and now you decide, and answer for;
          then the first question may be ticked for that.
        </Body>
      ) : null}
      {!locked && modems.length === 0 ? (
        <Notice kind="alarm" title="No bearer can send it now">
          {now.over.map(({ bearerId, name, stopped }) => (
            <Body key={bearerId}>{`${name}: ${stopped}`}</Body>
          ))}
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      {call.isError ? (
        <Notice kind="alarm" title="Not sent; what you wrote is kept">
          {call.error.message}
        </Notice>
      ) : null}
      <Button
        title={drill ? 'Start the drill …' : 'Call for help …'}
        icon="alert-octagram-outline"
        busy={call.isPending}
        disabled={
          locked
            ? 'The questions above hold the transmitter.'
            : modems.length === 0
              ? 'No bearer can send it now.'
              : checked.ok
                ? false
                : 'What happened is too long, or cannot be sent.'
        }
        onPress={() => setCounting(true)}
      />
      <Body soft above={8}>
        You can still take it back: it is counted down first. It then goes before everything else that waits, every 40 s
        at first, until you end it.
      </Body>
    </View>
  );
}

function WhatGoesOut({
  settings,
  now,
  drill,
  words,
}: {
  settings: Settings;
  now: EmergencyNow;
  drill: boolean;
  words: string;
}) {
  const symbol = symbolOf(settings.symbol);
  const info = symbol && encodeOwnEmergency({ drill, words, position: now.position }, symbol);
  return (
    <Stack gap={4} below={16}>
      {now.position ? null : (
        <Notice title="It is not known where you are">
          <Body>It goes out without a position. Write where you are, or set it first.</Body>
          <Button title="Set the position" kind="plain" href="/tools/position" />
        </Notice>
      )}
      {info?.ok ? <Mono>{textOfOctets(info.value)}</Mono> : null}
    </Stack>
  );
}
