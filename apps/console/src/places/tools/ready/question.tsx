import type { CheckState } from '@tombolo/core';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { whyNow } from './words';

interface QuestionProps {
  state: Extract<CheckState, { is: 'question' }>;
  /** What the station sees of it, which is no answer. */
  note?: string | undefined;
  answer: (outcomeId: string) => void;
  /** Null where it has to be answered. */
  cannotTell: (() => void) | null;
}

/** One question at a time, with why it comes now. */
export function Question({ state, note, answer, cannotTell }: QuestionProps) {
  const { test } = state;
  const why = whyNow(state);
  return (
    <Stack above={8}>
      <Heading level={3}>{test.question}</Heading>
      {note === undefined ? null : <Body>{note}</Body>}
      <Stack gap={8} around={8} align="start">
        {test.outcomes.map(({ id, words }) => (
          <Button key={id} title={words} about={test.question} kind="plain" onPress={() => answer(id)} />
        ))}
        {cannotTell ? <Button title="I cannot tell" about={test.question} kind="plain" onPress={cannotTell} /> : null}
      </Stack>
      {test.danger !== undefined ? <Notice kind="alarm" title={why} /> : <Body soft>{why}</Body>}
    </Stack>
  );
}
