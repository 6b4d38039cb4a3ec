import { zodResolver } from '@hookform/resolvers/zod';
import { newBearer, type BearerConfig } from '@tombolo/contract';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Notice } from '../../ui/page';
import { Heading } from '../../ui/text';

const form = z
  .object({ name: z.string(), kind: z.enum(['kiss-tcp', 'line-feed']), host: z.string(), port: z.string() })
  .superRefine((values, context) => {
    const result = newBearer.safeParse(bearerOf(values));
    for (const issue of result.error?.issues ?? [])
      context.addIssue({ code: 'custom', path: [String(issue.path.at(-1) ?? 'name')], message: issue.message });
  });
type Form = z.input<typeof form>;

const bearerOf = ({ name, kind, host, port }: Form) => ({
  name,
  config: { kind, host, port: Number(port), ...(kind === 'kiss-tcp' && { modemPort: 0 }) } as BearerConfig,
});

/** A new link: what it is and where. */
export function AddLink() {
  const [open, setOpen] = useState(false);
  const { control, handleSubmit, reset } = useForm<Form>({
    resolver: zodResolver(form),
    defaultValues: { name: '', kind: 'kiss-tcp', host: '127.0.0.1', port: '8001' },
  });
  const add = useChange(api.addBearer, ['bearers']);
  const submit = handleSubmit((values) =>
    add.mutate(bearerOf(values), {
      onSuccess: () => {
        reset();
        setOpen(false);
      },
    }),
  );
  if (!open)
    return (
      <View style={{ marginTop: 16, alignItems: 'flex-start' }}>
        <Button title="Add a link" icon="plus" kind="plain" onPress={() => setOpen(true)} />
      </View>
    );
  const field = (name: 'name' | 'host' | 'port', label: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange, onBlur }, fieldState }) => (
        <Field
          label={label}
          mono={name !== 'name'}
          value={value}
          onChangeText={onChange}
          onBlur={onBlur}
          error={fieldState.error?.message}
        />
      )}
    />
  );
  return (
    <View style={{ marginTop: 16 }}>
      <Heading level={2}>A new link</Heading>
      <Controller
        control={control}
        name="kind"
        render={({ field: { value, onChange } }) => (
          <Choice<Form['kind']>
            label="What is it"
            value={value}
            onChange={onChange}
            options={[
              { id: 'kiss-tcp', title: 'A modem, KISS over TCP', hint: 'Sends and receives.' },
              { id: 'line-feed', title: 'A feed of packets as text lines', hint: 'Only listened to.' },
            ]}
          />
        )}
      />
      {field('name', 'Name')}
      {field('host', 'Host')}
      {field('port', 'TCP port')}
      {add.isError ? (
        <Notice kind="alarm" title="Not added">
          {add.error.message}
        </Notice>
      ) : null}
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Button title="Add and connect" onPress={() => void submit()} busy={add.isPending} />
        <Button title="Leave it" kind="plain" onPress={() => setOpen(false)} />
      </View>
    </View>
  );
}
