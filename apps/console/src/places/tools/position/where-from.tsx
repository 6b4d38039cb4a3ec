import { zodResolver } from '@hookform/resolvers/zod';
import { GPSD_PORT, positionSource, type PositionSource } from '@tombolo/contract';
import { LINE_SPEEDS_BD, readWhole } from '@tombolo/core';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { toFirstFault } from '../../../ui/faults';
import { FormField } from '../../../ui/form-field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';

type By = PositionSource['by'];
const SOURCES = [
  { id: 'typed', title: 'Typed in', hint: 'For a long stay: it needs no receiver, and saves the cell.' },
  { id: 'serial', title: 'A receiver on a serial line', hint: 'NMEA 0183; Tools, Serial lines finds the device.' },
  { id: 'tcp', title: 'A receiver on the network', hint: 'NMEA 0183 over TCP.' },
  { id: 'gpsd', title: 'gpsd', hint: 'The usual program that shares a receiver.' },
] as const satisfies readonly { id: By; title: string; hint: string }[];

const texts = z.object({ device: z.string(), speedBd: z.string(), host: z.string(), port: z.string() });
type Texts = z.input<typeof texts>;

/** The contract's schema judges what the texts mean. */
const sourceForm = (by: By) =>
  texts.transform(({ device, host, ...numbers }, context): PositionSource => {
    const read = positionSource.safeParse({
      by,
      device,
      host,
      speedBd: readWhole(numbers.speedBd),
      port: readWhole(numbers.port),
    });
    if (read.success) return read.data;
    for (const { path, message } of read.error.issues) context.addIssue({ code: 'custom', path: [...path], message });
    return z.NEVER;
  });

const textsOf = (source: PositionSource): Texts => ({
  device: source.by === 'serial' ? source.device : '',
  speedBd: String(source.by === 'serial' ? source.speedBd : 4800),
  host: source.by === 'tcp' || source.by === 'gpsd' ? source.host : '127.0.0.1',
  port: String(source.by === 'tcp' || source.by === 'gpsd' ? source.port : GPSD_PORT),
});

export const sourceWords = (source: PositionSource): string => {
  switch (source.by) {
    case 'typed':
      return 'typed in';
    case 'serial':
      return `a receiver on ${source.device}, ${source.speedBd} Bd`;
    case 'tcp':
      return `a receiver at ${source.host}, port ${source.port}`;
    case 'gpsd':
      return `gpsd at ${source.host}, port ${source.port}`;
  }
};

/** What tells the station where it is. */
export function WhereFrom({ source }: { source: PositionSource }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Stack align="start" around={8}>
        <Body soft>{`It comes from: ${sourceWords(source)}.`}</Body>
        <Button title="Change where it comes from" kind="plain" onPress={() => setOpen(true)} />
      </Stack>
    );
  return <SourceForm source={source} leave={() => setOpen(false)} />;
}

function SourceForm({ source, leave }: { source: PositionSource; leave: () => void }) {
  const [by, setBy] = useState<By>(source.by);
  const { control, handleSubmit } = useForm<Texts, unknown, PositionSource>({
    resolver: zodResolver(sourceForm(by)),
    defaultValues: textsOf(source),
    mode: 'onTouched',
  });
  const change = useChange(
    (positionSource: PositionSource) => api.changeSettings({ positionSource }),
    ['settings', 'position'],
  );
  const save = handleSubmit((next) => change.mutate(next, { onSuccess: leave }), toFirstFault);
  return (
    <Stack above={8}>
      <Choice<By> label="Where it comes from" options={SOURCES} value={by} onChange={setBy} />
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
      ) : null}
      {by === 'tcp' || by === 'gpsd' ? (
        <>
          <FormField control={control} name="host" label="Host" mono autoCapitalize="none" />
          <FormField control={control} name="port" label="Port" mono />
        </>
      ) : null}
      {change.isError ? (
        <Notice kind="alarm" title="Not changed">
          {change.error.message}
        </Notice>
      ) : null}
      <Row gap={8}>
        <Button title="Take it from there" busy={change.isPending} onPress={() => void save()} />
        <Button title="Cancel" kind="plain" onPress={leave} />
      </Row>
    </Stack>
  );
}
