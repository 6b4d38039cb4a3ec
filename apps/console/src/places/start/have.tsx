import { bearerKind, inSessions, newBearer, type BearerView, type NewBearer, type Settings } from '@tombolo/contract';
import { readWhole } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { configAtModem } from '../../bearers/modem/at-modem';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { usePorts } from '../tools/serial/at-station';
import { PortList } from '../tools/serial/port-list';

type Has = 'network' | 'serial' | 'nothing';
/** Where programs that drive a modem usually offer KISS (common practice, no source). */
const USUAL = { host: '127.0.0.1', port: '8001', speedBd: '9600' } as const;

/** The first bearer: a modem on the network or on a serial line, or none yet. */
export function Have({
  settings,
  bearers,
  next,
}: {
  settings: Settings;
  bearers: readonly BearerView[];
  next: () => void;
}) {
  const [has, setHas] = useState<Has>('network');
  return (
    <Stack gap={8}>
      <Heading level={2}>What you have</Heading>
      {bearers.length > 0 ? (
        <View role="list" aria-label="Bearers">
          {bearers
            .filter(({ config }) => !inSessions(bearerKind(config.kind)))
            .map(({ id, name, state }) => (
              <Body key={id} role="listitem">
                {`${name}: ${state.link === 'up' ? 'connected' : (state.reason ?? 'not connected yet')}`}
              </Body>
            ))}
        </View>
      ) : null}
      <Choice<Has>
        label="A modem"
        value={has}
        onChange={setHas}
        options={[
          { id: 'network', title: 'On the network', hint: 'A program or a box that speaks KISS over TCP.' },
          { id: 'serial', title: 'On a cable', hint: 'Or on a wireless link that looks like a serial line.' },
          { id: 'nothing', title: 'None yet', hint: 'Look around in the demo district first.' },
        ]}
      />
      {has === 'network' ? <OnNetwork settings={settings} next={next} /> : null}
      {has === 'serial' ? <OnSerial settings={settings} next={next} /> : null}
      {has === 'nothing' ? (
        <Stack gap={8}>
          <Body>
            Stop the station and start it without “--empty”: a simulated district comes with it, spoken to as real
            equipment is, in a database of its own. What you entered here stays where it is.
          </Body>
          <Mono>npm start</Mono>
          <Body soft>A mesh node, a board or radio mail are added under Bearers.</Body>
          <Button title="Go on" onPress={next} />
        </Stack>
      ) : null}
    </Stack>
  );
}

interface FormProps {
  readonly settings: Settings;
  readonly next: () => void;
}

/** Adds a bearer as it is written, or says at which field it cannot. */
function useAdding(wanted: NewBearer, next: () => void) {
  const [tried, setTried] = useState(false);
  const add = useChange(api.addBearer, ['bearers']);
  const read = newBearer.safeParse(wanted);
  return {
    fault: (field: string) =>
      tried ? read.error?.issues.find(({ path }) => path.includes(field))?.message : undefined,
    add,
    submit: () => {
      setTried(true);
      if (read.success) add.mutate(wanted, { onSuccess: next });
    },
  };
}

function OnNetwork({ settings, next }: FormProps) {
  const [host, setHost] = useState<string>(USUAL.host);
  const [port, setPort] = useState<string>(USUAL.port);
  const { fault, add, submit } = useAdding(
    { name: 'Modem', config: configAtModem({ by: 'tcp', host: host.trim(), port: readWhole(port) }, settings.region) },
    next,
  );
  return (
    <View>
      <Field
        label="Host"
        mono
        value={host}
        onChangeText={setHost}
        error={fault('host')}
        hint="This machine, or its name"
      />
      <Field
        label="Port"
        mono
        inputMode="numeric"
        value={port}
        onChangeText={setPort}
        error={fault('port')}
        hint="8001 is usual"
      />
      <Adding add={add} submit={submit} />
    </View>
  );
}

function OnSerial({ settings, next }: FormProps) {
  const ports = usePorts();
  const [before, setBefore] = useState<readonly string[] | null>(null);
  const [device, setDevice] = useState('');
  const [speed, setSpeed] = useState<string>(USUAL.speedBd);
  const { fault, add, submit } = useAdding(
    {
      name: 'Modem',
      config: configAtModem({ by: 'serial', device: device.trim(), speedBd: readWhole(speed) }, settings.region),
    },
    next,
  );
  return (
    <View>
      {ports.data ? (
        <>
          <Stack align="start">
            <Button
              title={before ? 'Begin again' : 'It is unplugged: look for it'}
              kind="plain"
              onPress={() => setBefore(ports.data.map((one) => one.device))}
            />
          </Stack>
          <PortList ports={ports.data} before={before} choose={setDevice} />
        </>
      ) : null}
      <Field
        label="Device"
        mono
        autoCapitalize="none"
        value={device}
        onChangeText={setDevice}
        error={fault('device')}
        hint="Choose one above, or type its name"
      />
      <Field
        label="Speed of the line, Bd"
        mono
        inputMode="numeric"
        value={speed}
        onChangeText={setSpeed}
        error={fault('speedBd')}
        hint="That of the modem. Tools, Serial lines finds it"
      />
      <Adding add={add} submit={submit} />
    </View>
  );
}

function Adding({
  add,
  submit,
}: {
  add: { isError: boolean; isPending: boolean; error: Error | null };
  submit: () => void;
}) {
  return (
    <View>
      {add.isError ? (
        <Notice kind="alarm" title="Not added">
          {add.error?.message}
        </Notice>
      ) : null}
      <Button title="Add and connect" busy={add.isPending} onPress={submit} />
    </View>
  );
}
