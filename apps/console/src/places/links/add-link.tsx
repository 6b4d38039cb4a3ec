import { zodResolver } from '@hookform/resolvers/zod';
import { BOARD_PROFILES } from '@tombolo/core';
import { newBearer, type NewBearer } from '@tombolo/contract';
import { useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { api } from '../../live/api';
import { useBearers, useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow, Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { pathElements } from '../write/plan';

const KINDS = [
  {
    id: 'kiss-tcp',
    title: 'A modem, KISS over TCP',
    hint: 'Sends and receives packets; boards and mail go over it too.',
  },
  { id: 'line-feed', title: 'A feed of packets as text lines', hint: 'Only listened to.' },
  { id: 'board', title: 'A bulletin board', hint: 'Called over the modem when you start a session.' },
  { id: 'radio-mail', title: 'A gateway for radio mail', hint: 'Called over the modem when you start a session.' },
  { id: 'mesh-mqtt', title: 'A mesh, by its node over MQTT', hint: 'Licence-free; private channels are sealed.' },
] as const;
type Kind = (typeof KINDS)[number]['id'];

const TEXTS = {
  name: '',
  host: '127.0.0.1',
  port: '8001',
  call: '',
  path: '',
  address: '',
  user: '',
  password: '',
  root: 'mesh',
  node: '',
  tag: '',
  nodeName: '',
};
type Texts = typeof TEXTS;

const LABELS: Readonly<Record<keyof Texts, { label: string; hint?: string }>> = {
  name: { label: 'Name' },
  host: { label: 'Host' },
  port: { label: 'TCP port' },
  call: { label: 'Call sign with SSID', hint: 'Such as QT1BB-4' },
  path: { label: 'Digipeaters on the way', hint: 'By their calls, in order; empty for direct' },
  address: { label: 'Own mail address' },
  user: { label: 'Mailbox user' },
  password: { label: 'Mailbox password', hint: 'It crosses the air in the clear: use it for nothing else' },
  root: { label: 'MQTT topic of the mesh' },
  node: { label: 'Number of our node', hint: 'Eight digits, such as 01D1-0002' },
  tag: { label: 'Tag of our node', hint: 'One to six letters or digits' },
  nodeName: { label: 'Name of our node', hint: 'Frequency and modem setting are set when you open the link' },
};

const FIELDS: Readonly<Record<Kind, readonly (keyof Texts)[]>> = {
  'kiss-tcp': ['name', 'host', 'port'],
  'line-feed': ['name', 'host', 'port'],
  board: ['name', 'call', 'path'],
  'radio-mail': ['name', 'call', 'path', 'address', 'user', 'password'],
  'mesh-mqtt': ['name', 'host', 'port', 'root', 'node', 'tag', 'nodeName'],
};

const texts = Object.fromEntries(Object.keys(TEXTS).map((key) => [key, z.string()])) as Record<
  keyof Texts,
  z.ZodString
>;
const form = z
  .object({
    kind: z.enum(['kiss-tcp', 'line-feed', 'board', 'radio-mail', 'mesh-mqtt']),
    over: z.string(),
    confirms: z.boolean(),
    ...texts,
  })
  .superRefine((values, context) => {
    const result = newBearer.safeParse(bearerOf(values));
    for (const issue of result.error?.issues ?? []) {
      const part = String(issue.path.find((part) => typeof part === 'string' && part !== 'config') ?? 'name');
      const path = part === 'name' && issue.path[0] === 'config' ? 'nodeName' : part;
      context.addIssue({ code: 'custom', path: [path], message: issue.message });
    }
  });
type Form = z.input<typeof form>;

/** What the form means; the contract's schema judges it. */
export function bearerOf({ name, kind, over, confirms, ...texts }: Form): NewBearer {
  const at = { host: texts.host, port: Number(texts.port) };
  const called = { over, call: texts.call, path: pathElements(texts.path) };
  switch (kind) {
    case 'kiss-tcp':
      return { name, config: { kind, ...at, confirms } };
    case 'line-feed':
      return { name, config: { kind, ...at } };
    case 'board':
      return { name, config: { kind, ...called, profile: BOARD_PROFILES[0]! } };
    case 'radio-mail':
      return {
        name,
        config: { kind, ...called, address: texts.address, user: texts.user, password: texts.password },
      };
    case 'mesh-mqtt':
      return {
        name,
        config: {
          kind,
          ...at,
          root: texts.root,
          node: texts.node,
          tag: texts.tag,
          name: texts.nodeName,
          channels: [{ name: 'Open', key: null }],
        },
      };
  }
}

/** A new link: what it is and where. */
export function AddLink() {
  const [open, setOpen] = useState(false);
  const bearers = useBearers();
  const modem = bearers.data?.find(({ config }) => config.kind === 'kiss-tcp');
  const { control, handleSubmit, reset, setValue } = useForm<Form>({
    resolver: zodResolver(form),
    defaultValues: { kind: 'kiss-tcp', over: '', confirms: false, ...TEXTS },
  });
  const kind = useWatch({ control, name: 'kind' });
  const needsModem = kind === 'board' || kind === 'radio-mail';
  const add = useChange(api.addBearer, ['bearers']);
  const submit = () => {
    setValue('over', modem?.id ?? '');
    return handleSubmit((values) =>
      add.mutate(bearerOf(values), {
        onSuccess: () => {
          reset();
          setOpen(false);
        },
      }),
    )();
  };
  if (!open)
    return (
      <View style={{ marginTop: 16, alignItems: 'flex-start' }}>
        <Button title="Add a link" icon="plus" kind="plain" onPress={() => setOpen(true)} />
      </View>
    );
  return (
    <View style={{ marginTop: 16 }}>
      <Heading level={2}>A new link</Heading>
      <Controller
        control={control}
        name="kind"
        render={({ field: { value, onChange } }) => (
          <Choice<Kind> label="What is it" value={value} onChange={onChange} options={KINDS} />
        )}
      />
      {FIELDS[kind].map((name) => (
        <Controller
          key={name}
          control={control}
          name={name}
          render={({ field: { value, onChange, onBlur }, fieldState }) => (
            <Field
              label={LABELS[name].label}
              hint={LABELS[name].hint}
              mono={name !== 'name'}
              value={value}
              onChangeText={onChange}
              onBlur={onBlur}
              error={fieldState.error?.message}
            />
          )}
        />
      ))}
      {kind === 'kiss-tcp' ? (
        <Controller
          control={control}
          name="confirms"
          render={({ field: { value, onChange } }) => (
            <CheckRow
              label="It confirms each frame that it has sent"
              hint="An extension of KISS that some modems offer. Without it, “sent” means: given to the equipment, unconfirmed."
              checked={value}
              onChange={onChange}
            />
          )}
        />
      ) : null}
      {needsModem && bearers.data ? (
        modem ? (
          <Body soft style={{ marginBottom: 12 }}>{`Called over ${modem.name}.`}</Body>
        ) : (
          <Notice title="No modem yet">It is called over a modem: add that first.</Notice>
        )
      ) : null}
      {add.isError ? (
        <Notice kind="alarm" title="Not added">
          {add.error.message}
        </Notice>
      ) : null}
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Button
          title={needsModem ? 'Add it' : 'Add and connect'}
          onPress={() => void submit()}
          busy={add.isPending}
          disabled={needsModem && !modem}
        />
        <Button title="Leave it" kind="plain" onPress={() => setOpen(false)} />
      </View>
    </View>
  );
}
