import { zodResolver } from '@hookform/resolvers/zod';
import { newOwnCause, type NewOwnCause } from '@tombolo/contract';
import { readDecimal, readWhole, type OwnCause, type SymptomId } from '@tombolo/core';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { View } from 'react-native';
import { z } from 'zod';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { toFirstFault } from '../../../ui/faults';
import { FormField } from '../../../ui/form-field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { RemoveButton } from '../../../ui/remove-button';
import { Body, Heading } from '../../../ui/text';
import { readyAtStation } from './at-station';
import { aboutWords } from './words';

const texts = z.object({
  words: z.string(),
  remedy: z.string(),
  question: z.string(),
  costS: z.string(),
  weight: z.string(),
});
type Texts = z.input<typeof texts>;
const EMPTY: Texts = { words: '', remedy: '', question: '', costS: '30', weight: '2' };

/** The contract's schema judges what the texts mean. */
const causeForm = (symptom: SymptomId) =>
  texts.transform((written, context): NewOwnCause => {
    const read = newOwnCause.safeParse({
      ...written,
      symptom,
      costS: readWhole(written.costS),
      weight: readDecimal(written.weight),
    });
    if (read.success) return read.data;
    for (const { path, message } of read.error.issues) context.addIssue({ code: 'custom', path: [...path], message });
    return z.NEVER;
  });

/** Causes that were met here and are on no list yet. */
export function OwnCauses({ symptom, own }: { symptom: SymptomId; own: readonly OwnCause[] }) {
  const [open, setOpen] = useState(false);
  const [id, setId] = useState(() => crypto.randomUUID());
  const keep = useChange(readyAtStation.keepCause, ['own causes']);
  const remove = useChange(readyAtStation.removeCause, ['own causes']);
  const form = useForm<Texts, unknown, NewOwnCause>({
    resolver: zodResolver(causeForm(symptom)),
    defaultValues: EMPTY,
    mode: 'onTouched',
  });
  const submit = form.handleSubmit(
    (cause) =>
      keep.mutate(
        { id, ...cause },
        {
          onSuccess: () => {
            setId(crypto.randomUUID());
            setOpen(false);
            form.reset(EMPTY);
          },
        },
      ),
    toFirstFault,
  );
  const ours = own.filter((one) => one.symptom === symptom);
  return (
    <View>
      <Heading level={2}>Causes of your own</Heading>
      {ours.length === 0 ? (
        <Body soft>None yet. What you met and this list does not know can be asked for next time.</Body>
      ) : null}
      <View role="list" aria-label="Causes of your own">
        {ours.map((cause) => (
          <Stack key={cause.id} role="listitem" gap={4} padY={8} ruled>
            <Body bold>{cause.words}</Body>
            <Body soft>{`${cause.question} · ${aboutWords(cause.costS)} · ${cause.remedy}`}</Body>
            <Row wrap gap={8}>
              <RemoveButton about={cause.words} busy={remove.isPending} onRemove={() => remove.mutate(cause)} />
            </Row>
          </Stack>
        ))}
      </View>
      {remove.isError ? (
        <Notice kind="alarm" title="Not removed">
          {remove.error.message}
        </Notice>
      ) : null}
      {open ? (
        <Stack above={12}>
          <FormField control={form.control} name="words" label="What it was" />
          <FormField control={form.control} name="remedy" label="What helps" />
          <FormField
            control={form.control}
            name="question"
            label="Question that a yes answers"
            hint="Yes: it is this. No: it is something else."
          />
          <FormField control={form.control} name="costS" label="How long it takes to look, s" />
          <FormField
            control={form.control}
            name="weight"
            label="How often it happens"
            hint="Against the others: 1 is rare, 8 is often. What is found here corrects it."
          />
          {keep.isError ? (
            <Notice kind="alarm" title="Not saved">
              {keep.error.message}
            </Notice>
          ) : null}
          <Row gap={8}>
            <Button title="Add the cause" busy={keep.isPending} onPress={() => void submit()} />
            <Button title="Cancel" kind="plain" onPress={() => setOpen(false)} />
          </Row>
        </Stack>
      ) : (
        <Stack align="start" above={8}>
          <Button title="Add a cause" kind="plain" onPress={() => setOpen(true)} />
        </Stack>
      )}
    </View>
  );
}
