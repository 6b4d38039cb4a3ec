import { zodResolver } from '@hookform/resolvers/zod';
import { modemSettings } from '@tombolo/contract';
import { readWhole } from '@tombolo/core';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { toFirstFault } from '../../ui/faults';
import { FormField } from '../../ui/form-field';
import { Row, Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body } from '../../ui/text';
import type { BearerField } from '../kind';
import type { OfModem } from './of-modem';
import { pathElements } from '../packets/plan';

/** The form holds texts; the contract's schema judges what they mean. */
const texts = z.object({
  txDelayMs: z.string(),
  persistencePercent: z.string(),
  slotMs: z.string(),
  usualPath: z.string(),
});
const keying = modemSettings.pick({ txDelayMs: true, persistencePercent: true, slotMs: true, path: true });
const form = texts.transform((written, context) => {
  const read = keying.safeParse(keyingOf(written));
  if (read.success) return read.data;
  for (const { path, message } of read.error.issues)
    context.addIssue({ code: 'custom', path: [path[0] === 'path' ? 'usualPath' : String(path[0])], message });
  return z.NEVER;
});

const wholeOf = (text: string): number => (text.trim() === '' ? NaN : readWhole(text));

/** What typed texts say of how a modem is keyed; an empty delay is none. */
export const keyingOf = ({ txDelayMs, persistencePercent, slotMs, usualPath }: z.output<typeof texts>) => ({
  txDelayMs: wholeOf(txDelayMs),
  persistencePercent: wholeOf(persistencePercent),
  slotMs: wholeOf(slotMs),
  path: pathElements(usualPath),
});

export const KEYING_FIELDS = [
  {
    name: 'txDelayMs',
    initial: '300',
    label: 'Transmit delay, ms',
    hint: 'How long the transmitter needs before data; often 200 with a built-in modem, 600 with a hand-held',
  },
  {
    name: 'persistencePercent',
    initial: '25',
    label: 'Persistence, %',
    hint: 'How likely it begins in each slot while the channel is clear; less where many share it',
  },
  {
    name: 'slotMs',
    initial: '100',
    label: 'Slot, ms',
    hint: 'How long it waits before it tries again',
  },
  {
    name: 'usualPath',
    key: 'path',
    initial: 'WIDE1-1,WIDE2-1',
    label: 'Usual path',
    hint: 'For what is handed on. Acknowledgements and answers go direct to whom is heard so, else over no more digipeaters than this; another path than the usual ones is taken as it is. Empty for direct',
  },
] as const satisfies readonly BearerField[];

/** How a modem keys its transmitter, and over which path it usually sends. */
export function Keying({ bearer, config }: OfModem) {
  const [open, setOpen] = useState(false);
  const { control, handleSubmit } = useForm<z.input<typeof form>, unknown, z.output<typeof form>>({
    resolver: zodResolver(form),
    values: {
      txDelayMs: String(config.txDelayMs),
      persistencePercent: String(config.persistencePercent),
      slotMs: String(config.slotMs),
      usualPath: config.path.join(','),
    },
  });
  const change = useChange(
    (keying: z.output<typeof form>) => api.changeBearer(bearer.id, { ...config, ...keying }),
    ['bearers'],
  );
  if (!open)
    return (
      <Stack align="start">
        <Body
          soft
        >{`Transmit delay ${config.txDelayMs} ms, persistence ${config.persistencePercent} %, slot ${config.slotMs} ms; usual path ${config.path.join(',') || 'direct'}.`}</Body>
        <Button title="Change delay or path" about={bearer.name} kind="plain" onPress={() => setOpen(true)} />
      </Stack>
    );
  return (
    <View>
      {KEYING_FIELDS.map(({ name, label, hint }) => (
        <FormField key={name} control={control} name={name} label={label} hint={hint} mono />
      ))}
      <Body soft below={8}>
        With another delay the modem is connected anew: a session that runs over it ends.
      </Body>
      {change.isError ? (
        <Notice kind="alarm" title="Not saved">
          {change.error.message}
        </Notice>
      ) : null}
      <Row gap={8}>
        <Button
          title="Save delay and path"
          about={bearer.name}
          busy={change.isPending}
          onPress={() =>
            void handleSubmit((keying) => change.mutate(keying, { onSuccess: () => setOpen(false) }), toFirstFault)()
          }
        />
        <Button title="Cancel" kind="plain" onPress={() => setOpen(false)} />
      </Row>
    </View>
  );
}
