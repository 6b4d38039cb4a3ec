import { operatorSettings, type Settings } from '@tombolo/contract';
import { readWhole } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../live/api';
import { usePreferences } from '../../live/preferences';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Notice } from '../../ui/page';
import { TermHelp } from '../../ui/terms';
import { Body, Heading } from '../../ui/text';
import { initialsOf } from './steps';

const who = operatorSettings.pick({ call: true, ssid: true, name: true });

/** Call and name; either may be missing. */
export function Who({ settings, next }: { settings: Settings; next: () => void }) {
  const [call, setCall] = useState(settings.call);
  const [ssid, setSsid] = useState(String(settings.ssid));
  const [name, setName] = useState(settings.name);
  const [tried, setTried] = useState(false);
  const keep = useChange(api.changeSettings, ['settings']);
  const read = who.safeParse({ call, ssid: readWhole(ssid), name });
  const fault = (field: string) =>
    tried ? read.error?.issues.find(({ path }) => path[0] === field)?.message : undefined;
  const submit = () => {
    setTried(true);
    if (!read.success) return;
    const { initials, prefer } = usePreferences.getState();
    keep.mutate(read.data, {
      onSuccess: () => {
        if (initials === '' && read.data.name !== '') prefer({ initials: initialsOf(read.data.name) });
        next();
      },
    });
  };
  return (
    <View>
      <Heading level={2}>Who you are</Heading>
      <Field
        label="Call sign"
        mono
        autoCapitalize="characters"
        value={call}
        onChangeText={setCall}
        error={fault('call')}
        hint="As your licence has it. Without one leave it empty: you listen, and use what needs no licence"
      />
      <Field
        label="SSID"
        mono
        inputMode="numeric"
        value={ssid}
        onChangeText={setSsid}
        error={fault('ssid') && 'a number from 0 to 15'}
        hint="0 to 15; by habit 7 is a hand-held, 9 a car, 0 a home"
      />
      <TermHelp term="SSID" />
      <Field
        label="Name"
        value={name}
        onChangeText={setName}
        error={fault('name')}
        hint="Stays on this station: for what you sign with your initials"
      />
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {keep.error.message}
        </Notice>
      ) : null}
      <Button title="Keep it and go on" busy={keep.isPending} onPress={submit} />
      {call.trim() === '' ? <Body soft>Without a call sign nothing goes out on an amateur band.</Body> : null}
    </View>
  );
}
