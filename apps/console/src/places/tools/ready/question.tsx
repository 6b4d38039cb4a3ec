import type { CheckState } from '@tombolo/core';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
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
    <View style={{ marginTop: 8 }}>
      <Heading level={3}>{test.question}</Heading>
      {note === undefined ? null : <Body>{note}</Body>}
      <View style={{ gap: 8, marginVertical: 8, alignItems: 'flex-start' }}>
        {test.outcomes.map(({ id, words }) => (
          <Button key={id} title={words} about={test.question} kind="plain" onPress={() => answer(id)} />
        ))}
        {cannotTell ? <Button title="I cannot tell" about={test.question} kind="plain" onPress={cannotTell} /> : null}
      </View>
      {test.danger !== undefined ? <Notice kind="alarm" title={why} /> : <Body soft>{why}</Body>}
    </View>
  );
}
