import { zodResolver } from '@hookform/resolvers/zod';
import { bearerKind, newBearer, sendsPackets, type BearerKindId, type NewBearer } from '@tombolo/contract';
import { useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import type { BearerField } from '../../bearers/kind';
import { consoleKind, consoleKinds } from '../../bearers/registry';
import { api } from '../../live/api';
import { useBearers, useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { CheckRow, Choice } from '../../ui/choice';
import { toFirstFault } from '../../ui/faults';
import { FormField } from '../../ui/form-field';
import { Notice } from '../../ui/page';
import { Body, Heading } from '../../ui/text';

const NAME: BearerField = { name: 'name', label: 'Name' };

/** The kinds are known when they are registered; a form field has the name that its kind gives it. */
const form = z
  .object({
    kind: z.string().transform((kind) => kind as BearerKindId),
    over: z.string(),
    texts: z.record(z.string(), z.string()),
    switches: z.record(z.string(), z.boolean()),
  })
  .superRefine((values, context) => {
    const { fields } = consoleKind(values.kind).form;
    for (const { path, message } of newBearer.safeParse(bearerOf(values)).error?.issues ?? []) {
      const [root, key] = path;
      const field = root === 'config' ? fields.find(({ name, key: own = name }) => own === key) : NAME;
      context.addIssue({ code: 'custom', path: ['texts', field?.name ?? NAME.name], message });
    }
  });
type Form = z.input<typeof form>;

/** What the form means; the contract's schema judges it. */
function bearerOf({ kind, over, texts, switches }: z.output<typeof form>): NewBearer {
  return { name: texts.name ?? '', config: consoleKind(kind).form.config({ over, texts, switches }) };
}

const initialTexts = (): Record<string, string> => ({
  name: '',
  ...Object.fromEntries(
    consoleKinds().flatMap(({ form: { fields } }) => fields.map(({ name, initial = '' }) => [name, initial])),
  ),
});

const initialSwitches = (): Record<string, boolean> =>
  Object.fromEntries(
    consoleKinds().flatMap(({ form: { switches = [] } }) => switches.map(({ name }) => [name, false])),
  );

/** What it takes and what it can prove, before it is added. */
function promises(id: BearerKindId): string {
  const { sends, mostTextOctets, proves, amateurBand } = bearerKind(id);
  if (sends === 'nothing') return 'Nothing goes out by it.';
  return [
    mostTextOctets === null ? 'Texts as long as you have patience for.' : `Texts of at most ${mostTextOctets} octets.`,
    proves === null ? 'It proves nothing by itself.' : `What it can prove at best: ${proves}.`,
    amateurBand ? 'On an amateur band: it needs a licence, and everybody can read it.' : '',
  ]
    .filter((part) => part !== '')
    .join(' ');
}

/** A new bearer: what it is and where. */
export function AddBearer() {
  const [open, setOpen] = useState(false);
  const bearers = useBearers();
  const modem = bearers.data?.find(({ config }) => sendsPackets(config));
  const kinds = consoleKinds();
  const { control, handleSubmit, reset, setValue } = useForm<Form, unknown, z.output<typeof form>>({
    resolver: zodResolver(form),
    defaultValues: { kind: kinds[0]!.id, over: '', texts: initialTexts(), switches: initialSwitches() },
  });
  const kind = useWatch({ control, name: 'kind' }) as BearerKindId;
  const { fields, switches = [], overModem = false } = consoleKind(kind).form;
  const add = useChange(api.addBearer, ['bearers']);
  const submit = () => {
    setValue('over', modem?.id ?? '');
    return handleSubmit(
      (values) =>
        add.mutate(bearerOf(values), {
          onSuccess: () => {
            reset();
            setOpen(false);
          },
        }),
      toFirstFault,
    )();
  };
  if (!open)
    return (
      <View style={{ marginTop: 16, alignItems: 'flex-start' }}>
        <Button title="Add a bearer" icon="plus" kind="plain" onPress={() => setOpen(true)} />
      </View>
    );
  return (
    <View style={{ marginTop: 16 }}>
      <Heading level={2}>A new bearer</Heading>
      <Controller
        control={control}
        name="kind"
        render={({ field: { value, onChange } }) => (
          <Choice label="What is it" value={value} onChange={onChange} options={kinds} />
        )}
      />
      <Body soft style={{ marginBottom: 12 }}>
        {promises(kind)}
      </Body>
      {[NAME, ...fields].map(({ name, label, hint }) => (
        <FormField
          key={`${kind} ${name}`}
          control={control}
          name={`texts.${name}`}
          label={label}
          hint={hint}
          mono={name !== NAME.name}
        />
      ))}
      {switches.map(({ name, label, hint }) => (
        <Controller
          key={`${kind} ${name}`}
          control={control}
          name={`switches.${name}`}
          render={({ field: { value = false, onChange } }) => (
            <CheckRow label={label} hint={hint} checked={value} onChange={onChange} />
          )}
        />
      ))}
      {overModem && bearers.data ? (
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
          title={overModem ? 'Add it' : 'Add and connect'}
          onPress={() => void submit()}
          busy={add.isPending}
          disabled={overModem && !modem ? 'It goes over a modem: add one first.' : false}
        />
        <Button title="Cancel" kind="plain" onPress={() => setOpen(false)} />
      </View>
    </View>
  );
}
