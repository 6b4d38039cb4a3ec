import { zodResolver } from '@hookform/resolvers/zod';
import type { KeptService } from '@tombolo/contract';
import { serviceRoutes } from '@tombolo/contract/routes/services';
import { PROVES } from '@tombolo/core';
import { useState } from 'react';
import { Controller, useFieldArray, useForm } from 'react-hook-form';
import { View } from 'react-native';
import { ask } from '../../../live/ask';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Chips } from '../../../ui/chips';
import { Faults, toFirstFault } from '../../../ui/faults';
import { FormField } from '../../../ui/form-field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { CommandFields } from './command-fields';
import { BLANK_COMMAND, PROVES_WORDS, serviceForm, writtenOf, type ServiceForm as Form } from './written-service';

type Output = ReturnType<typeof serviceForm.parse>;

const LABELS = {
  address: 'Address',
  name: 'Name',
  purpose: 'What it is good for',
  reached: 'How it is reached',
  title: 'Title',
  id: 'Short name',
  template: 'What is sent',
  pattern: 'Pattern',
  withinMin: 'Answer within',
  leftBy: 'Ended by',
  cautions: 'Cautions',
  offers: 'Offered',
  of: 'Answers',
} as const;

/** A service: how it is called, what it is told, and what its answers prove. */
export function ServiceForm({ service, leave }: { service: KeptService | null; leave: () => void }) {
  const { control, handleSubmit, watch, setValue, formState } = useForm<Form, unknown, Output>({
    resolver: zodResolver(serviceForm),
    defaultValues: writtenOf(service),
    mode: 'onBlur',
  });
  const [tried, setTried] = useState(false);
  const commands = useFieldArray({ control, name: 'commands' });
  const answers = useFieldArray({ control, name: 'answers' });
  const keep = useChange(
    (changed: Output) =>
      ask(serviceRoutes.keepService, {
        params: { address: changed.address },
        body: { service: changed, revision: service?.revision ?? null },
      }),
    ['services'],
  );
  const submit = () => {
    setTried(true);
    void handleSubmit((changed) => keep.mutate(changed, { onSuccess: leave }), toFirstFault)();
  };
  return (
    <View>
      <Heading level={2}>{service ? `Change ${service.name}` : 'Add a service'}</Heading>
      {service ? (
        <Body soft below={8}>{`Texts to ${service.address}. At another address it is another service: add it.`}</Body>
      ) : (
        <FormField
          control={control}
          name="address"
          label="Address"
          mono
          autoCapitalize="characters"
          hint="What a text to it is addressed to, one to nine characters"
        />
      )}
      <FormField control={control} name="name" label="Name" />
      <FormField control={control} name="purpose" label="What it is good for" />
      <FormField
        control={control}
        name="reached"
        label="How it is reached"
        hint="Such as: behind QT1GW-10. May be left out"
      />
      {commands.fields.map((command, n) => (
        <CommandFields
          key={command.id}
          control={control}
          watch={watch}
          setValue={setValue}
          n={n}
          remove={commands.fields.length > 1 ? () => commands.remove(n) : null}
        />
      ))}
      <Stack align="start" below={16}>
        <Button
          title="Add a command"
          kind="plain"
          onPress={() => commands.append({ ...BLANK_COMMAND, id: `send${commands.fields.length + 1}` })}
        />
      </Stack>
      <Heading level={2}>What its answers prove</Heading>
      <Body soft below={8}>
        The first pattern that finds something counts. A group that is named like a field, such as (?&lt;to&gt;\d+),
        tells which of your texts is answered.
      </Body>
      {answers.fields.map((answer, n) => (
        <Stack key={answer.id} role="group" aria-label={`Answer ${n + 1}`} below={12}>
          <FormField
            control={control}
            name={`answers.${n}.pattern`}
            label={`Pattern ${n + 1}`}
            mono
            autoCapitalize="none"
          />
          <Controller
            control={control}
            name={`answers.${n}.proves`}
            render={({ field: { value, onChange } }) => (
              <Chips
                label={`Pattern ${n + 1} proves`}
                options={PROVES.map((id) => ({ id, title: PROVES_WORDS[id].title }))}
                value={value}
                onChange={onChange}
              />
            )}
          />
          <FormField
            control={control}
            name={`answers.${n}.of`}
            label={`Answers which commands, pattern ${n + 1}`}
            mono
            autoCapitalize="none"
            hint="Their short names with commas between; empty for all"
          />
          <Stack align="start">
            <Button title="Remove the pattern" about={String(n + 1)} kind="plain" onPress={() => answers.remove(n)} />
          </Stack>
        </Stack>
      ))}
      <Stack align="start" below={16}>
        <Button
          title="Add a pattern"
          kind="plain"
          onPress={() => answers.append({ pattern: '^', proves: 'taken', of: '' })}
        />
      </Stack>
      <Faults errors={formState.errors} tried={tried} labels={LABELS} />
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {keep.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button title={service ? 'Save the service' : 'Add to the directory'} busy={keep.isPending} onPress={submit} />
        <Button title="Leave it" kind="plain" onPress={leave} />
      </Row>
    </View>
  );
}
