import { checkState, ruleBaseOf, type OwnCause, type Seen, type SymptomId } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Row } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { Possible } from './possible';
import { Question } from './question';
import { SeenList } from './seen-list';
import { Verdict } from './verdict';

interface CheckProps {
  symptom: SymptomId;
  seen: readonly Seen[];
  /** How often each cause was found here. */
  counted: Readonly<Record<string, number>>;
  own: readonly OwnCause[];
}

/** Somebody could not say: the question is not asked again, and nothing is ruled out. */
const CANNOT_TELL = 'cannot-tell';

/** One check, from what the station sees to its verdict. */
export function Check({ symptom, seen, counted, own }: CheckProps) {
  const [answers, setAnswers] = useState<readonly (readonly [testId: string, outcomeId: string])[]>([]);
  const base = ruleBaseOf(symptom, own);
  const asked = new Set(base.tests.map(({ id }) => id));
  const relevant = seen.filter(({ testId }) => asked.has(testId));
  const all = {
    ...Object.fromEntries(
      relevant.flatMap(({ testId, outcomeId }) => (outcomeId === null ? [] : [[testId, outcomeId] as const])),
    ),
    ...Object.fromEntries(answers),
  };
  const state = checkState(base, all, counted);
  const answer = (testId: string, outcomeId: string) =>
    setAnswers([...answers.filter(([id]) => id !== testId), [testId, outcomeId]]);
  return (
    <View>
      <View aria-live="polite">
        {state.is === 'question' ? (
          <Question
            state={state}
            note={relevant.find(({ testId, outcomeId }) => testId === state.test.id && outcomeId === null)?.words}
            answer={(outcomeId) => answer(state.test.id, outcomeId)}
            cannotTell={state.test.danger === undefined ? () => answer(state.test.id, CANNOT_TELL) : null}
          />
        ) : null}
        {state.is === 'verdict' ? (
          <Verdict
            key={state.possible.map(({ causeId }) => causeId).join()}
            symptom={symptom}
            base={base}
            possible={state.possible}
            answers={all}
            putRight={(testId, outcomeId) => answer(testId, outcomeId)}
          />
        ) : null}
        {state.is === 'contradiction' ? (
          <Notice title="The answers do not go together">
            <Body>No single fault shows all of this. Take answers back, or more than one thing is wrong.</Body>
          </Notice>
        ) : null}
      </View>
      {answers.length > 0 ? (
        <Row wrap gap={8} above={8}>
          <Button title="Take back the last answer" kind="plain" onPress={() => setAnswers(answers.slice(0, -1))} />
          <Button title="Begin again" kind="plain" onPress={() => setAnswers([])} />
        </Row>
      ) : null}
      {state.is === 'question' ? <Possible base={base} possible={state.possible} /> : null}
      <SeenList seen={relevant} />
    </View>
  );
}
