import { zodResolver } from '@hookform/resolvers/zod';
import {
  BANDWIDTHS_HZ,
  CODING_RATES,
  counted,
  meshReachWords,
  proposedHopLimit,
  readDecimal,
  readWhole,
  SPREADING_FACTORS,
} from '@tombolo/core';
import { meshMqttConfig, type BearerConfig, type BearerView } from '@tombolo/contract';
import { useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow } from '../../ui/choice';
import { Chips } from '../../ui/chips';
import { toFirstFault } from '../../ui/faults';
import { FormField } from '../../ui/form-field';
import { Row, Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';
import { comparedAirS, type MeshConfig } from './hour';

const form = z
  .object({
    tag: z.string(),
    name: z.string(),
    frequencyMHz: z.string().trim().min(1, 'the frequency of your group, in MHz'),
    spreadingFactor: z.string(),
    bandwidthHz: z.string(),
    codingRate: z.string(),
    hopLimit: z.string(),
    announceMin: z.string(),
    carrier: z.boolean(),
  })
  .superRefine((values, context) => {
    const { tag, name, hopLimit, announceMin, radio } = meshMqttConfig.shape;
    const judged = z.object({ tag, name, hopLimit, announceMin, radio }).safeParse(settingOf(values));
    for (const { path, message } of judged.error?.issues ?? [])
      context.addIssue({ code: 'custom', path: [path[0] === 'radio' ? 'frequencyMHz' : String(path[0])], message });
  });
type Form = z.input<typeof form>;

/** What the form means; the contract's schema judges it. */
const settingOf = (values: Form) => ({
  tag: values.tag,
  name: values.name,
  carrier: values.carrier,
  hopLimit: readWhole(values.hopLimit),
  announceMin: readWhole(values.announceMin),
  radio: {
    frequencyHz: Math.round(readDecimal(values.frequencyMHz) * 1e6),
    spreadingFactor: Number(values.spreadingFactor),
    bandwidthHz: Number(values.bandwidthHz),
    codingRate: Number(values.codingRate),
  },
});

const chips = (values: readonly number[], title: (value: number) => string) =>
  values.map((value) => ({ id: String(value), title: title(value) }));
const CHOICES = [
  { name: 'spreadingFactor', label: 'Spreading factor', options: chips(SPREADING_FACTORS, (sf) => `SF${sf}`) },
  { name: 'bandwidthHz', label: 'Bandwidth', options: chips(BANDWIDTHS_HZ, (hz) => `${hz / 1000} kHz`) },
  { name: 'codingRate', label: 'Coding rate', options: chips(CODING_RATES, (n) => `4/${4 + n}`) },
] as const;

/** How the own node is to be set: opened on purpose, for a node that is set otherwise than its group hears nobody. */
export function NodeSetting({
  bearer,
  config,
  nodes,
}: {
  bearer: BearerView;
  config: MeshConfig;
  /** How many are known, our own with them. */
  nodes: number;
}) {
  const [open, setOpen] = useState(config.radio === null);
  return (
    <View>
      <Heading level={2}>Own node</Heading>
      {open ? (
        <NodeForm bearer={bearer} config={config} nodes={nodes} close={() => setOpen(false)} />
      ) : (
        <Stack align="start" gap={8}>
          <Body soft>{`At most ${config.hopLimit} hops; announces itself every ${config.announceMin} min.`}</Body>
          <Button title="Change how the node is set" kind="plain" onPress={() => setOpen(true)} />
        </Stack>
      )}
    </View>
  );
}

function NodeForm({
  bearer,
  config,
  nodes,
  close,
}: {
  bearer: BearerView;
  config: MeshConfig;
  nodes: number;
  close: () => void;
}) {
  const { radio } = config;
  const { control, handleSubmit } = useForm<Form>({
    resolver: zodResolver(form),
    defaultValues: {
      tag: config.tag,
      name: config.name,
      frequencyMHz: radio ? String(radio.frequencyHz / 1e6) : '',
      spreadingFactor: String(radio?.spreadingFactor ?? 9),
      bandwidthHz: String(radio?.bandwidthHz ?? 125_000),
      codingRate: String(radio?.codingRate ?? 1),
      hopLimit: String(config.hopLimit),
      announceMin: String(config.announceMin),
      carrier: config.carrier,
    },
  });
  const [spreadingFactor, bandwidthHz, codingRate] = useWatch({
    control,
    name: ['spreadingFactor', 'bandwidthHz', 'codingRate'],
  }).map(Number) as [number, number, number];
  const setting = { spreadingFactor, bandwidthHz, codingRate };
  const change = useChange(
    (values: Form) => api.changeBearer(bearer.id, { ...config, ...settingOf(values) } as BearerConfig),
    ['bearers'],
  );
  const field = (name: Exclude<keyof Form, 'carrier'>, label: string, hint: string) => (
    <FormField control={control} name={name} label={label} hint={hint} mono={name !== 'name'} />
  );
  return (
    <View>
      <Body soft below={12}>
        All nodes of a mesh need the same frequency, spreading factor, bandwidth and coding rate. The node may start
        anew.
      </Body>
      {field('frequencyMHz', 'Frequency, MHz', 'The middle of the channel, inside a licence-free band')}
      {CHOICES.map(({ name, label, options }) => (
        <Controller
          key={name}
          control={control}
          name={name}
          render={({ field: { value, onChange } }) => (
            <Stack below={16} gap={4}>
              <Body bold>{label}</Body>
              <Chips label={label} options={options} value={value} onChange={onChange} />
            </Stack>
          )}
        />
      ))}
      <Body aria-live="polite" below={16}>
        {`A text of 50 octets takes ${comparedAirS(setting, false)} s; reach: ${meshReachWords(setting)}.`}
      </Body>
      {field('tag', 'Tag', 'One to six letters or digits, as others call the node')}
      {field('name', 'Name', 'Where it is, or whose')}
      {field(
        'hopLimit',
        'Hop limit',
        `1 to 15; for ${counted(nodes, 'node')} ${proposedHopLimit(nodes)} is proposed, an estimate`,
      )}
      {field('announceMin', 'Announces itself every … min', 'Each time costs air time of the hour')}
      <Controller
        control={control}
        name="carrier"
        render={({ field: { value, onChange } }) => (
          <CheckRow
            label="It is a carrier"
            checked={value}
            onChange={onChange}
            hint="Carriers stand high and repeat first. A terminal repeats only where fewer than two others did."
          />
        )}
      />
      {change.isError ? (
        <Notice kind="alarm" title="Not changed">
          {change.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8} above={8}>
        <Button
          title="Set the node"
          busy={change.isPending}
          onPress={() => void handleSubmit((values) => change.mutate(values, { onSuccess: close }), toFirstFault)()}
        />
        {config.radio ? <Button title="Cancel" kind="plain" onPress={close} /> : null}
      </Row>
    </View>
  );
}
