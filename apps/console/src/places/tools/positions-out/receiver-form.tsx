import { zodResolver } from '@hookform/resolvers/zod';
import { WAYPOINT_KINDS, waypointsOut, type WaypointKind, type WaypointsOut } from '@tombolo/contract';
import { LINE_SPEEDS_BD, readDecimal, readWhole } from '@tombolo/core';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { CheckRow, Choice } from '../../../ui/choice';
import { toFirstFault } from '../../../ui/faults';
import { FormField } from '../../../ui/form-field';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';

type By = WaypointsOut['to']['by'];
const KIND_WORDS: Readonly<Record<WaypointKind, string>> = {
  station: 'Stations',
  object: 'Objects',
  item: 'Items',
  node: 'Nodes of the mesh',
};

const texts = z.object({
  device: z.string(),
  speedBd: z.string(),
  host: z.string(),
  port: z.string(),
  withinKm: z.string(),
});
type Texts = z.input<typeof texts>;

/** The contract's schema judges what the texts mean. */
export const outForm = (by: By, kinds: readonly WaypointKind[]) =>
  texts.transform(({ device, host, withinKm, ...numbers }, context): WaypointsOut => {
    const to =
      by === 'serial'
        ? { by, device: device.trim(), speedBd: readWhole(numbers.speedBd) }
        : { by, host: host.trim(), port: readWhole(numbers.port) };
    const read = waypointsOut.safeParse({
      to,
      kinds,
      withinKm: withinKm.trim() === '' ? null : readDecimal(withinKm),
    });
    if (read.success) return read.data;
    for (const { path, message } of read.error.issues)
      context.addIssue({ code: 'custom', path: [path[path.length - 1] ?? 'withinKm'], message });
    return z.NEVER;
  });

/** `to /dev/ttyUSB0, 4800 Bd: stations and objects within 50 km`. */
export function outWords({ to, kinds, withinKm }: WaypointsOut): string {
  const where = to.by === 'serial' ? `${to.device}, ${to.speedBd} Bd` : `${to.host}, port ${to.port}`;
  const what = kinds.map((kind) => KIND_WORDS[kind].toLowerCase()).join(', ');
  return `To ${where}: ${what}${withinKm === null ? '' : ` within ${withinKm} km`}`;
}

const textsOf = (out: WaypointsOut | null): Texts => ({
  device: out?.to.by === 'serial' ? out.to.device : '',
  speedBd: String(out?.to.by === 'serial' ? out.to.speedBd : 4800),
  host: out?.to.by === 'tcp' ? out.to.host : '127.0.0.1',
  port: out?.to.by === 'tcp' ? String(out.to.port) : '',
  withinKm: out?.withinKm == null ? '' : String(out.withinKm),
});

/** Where the receiver is, and what it gets. */
export function ReceiverForm({ out }: { out: WaypointsOut | null }) {
  const [by, setBy] = useState<By>(out?.to.by ?? 'serial');
  const [kinds, setKinds] = useState<readonly WaypointKind[]>(out?.kinds ?? ['station', 'object', 'item']);
  const { control, handleSubmit } = useForm<Texts, unknown, WaypointsOut>({
    resolver: zodResolver(outForm(by, kinds)),
    defaultValues: textsOf(out),
    mode: 'onTouched',
  });
  const change = useChange(
    (waypoints: WaypointsOut) => api.changeSettings({ waypointsOut: waypoints }),
    ['settings', 'waypoints'],
  );
  const save = handleSubmit((next) => change.mutate(next), toFirstFault);
  return (
    <Stack above={12}>
      <Choice<By>
        label="Where it is"
        value={by}
        onChange={setBy}
        options={[
          { id: 'serial', title: 'On a serial line', hint: 'Tools, Serial lines finds the device.' },
          { id: 'tcp', title: 'On the network', hint: 'It listens for NMEA 0183 over TCP.' },
        ]}
      />
      {by === 'serial' ? (
        <>
          <FormField
            control={control}
            name="device"
            label="Device"
            hint="Such as /dev/ttyUSB0"
            mono
            autoCapitalize="none"
          />
          <FormField
            control={control}
            name="speedBd"
            label="Speed of the line, Bd"
            hint={`4800 is usual; one of ${LINE_SPEEDS_BD.join(', ')}`}
            mono
          />
        </>
      ) : (
        <>
          <FormField control={control} name="host" label="Host" mono autoCapitalize="none" />
          <FormField control={control} name="port" label="Port" mono />
        </>
      )}
      <View role="group" aria-label="What it gets">
        <Body bold>What it gets</Body>
        {WAYPOINT_KINDS.map((kind) => (
          <CheckRow
            key={kind}
            label={KIND_WORDS[kind]}
            checked={kinds.includes(kind)}
            onChange={(on) => setKinds(WAYPOINT_KINDS.filter((one) => (one === kind ? on : kinds.includes(one))))}
          />
        ))}
      </View>
      <FormField control={control} name="withinKm" label="Within, km" hint="Empty for all" mono />
      {change.isError ? (
        <Notice kind="alarm" title="Not changed">
          {change.error.message}
        </Notice>
      ) : null}
      <Button
        title={out ? 'Change it' : 'Give it what is heard'}
        busy={change.isPending}
        disabled={kinds.length === 0 ? 'Choose at least one kind.' : false}
        onPress={() => void save()}
      />
    </Stack>
  );
}
