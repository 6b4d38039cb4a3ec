import { causeWords, NOT_LISTED, type Answers, type Possible, type RuleBase, type SymptomId } from '@tombolo/core';
import { useState } from 'react';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { readyAtStation } from './at-station';
import { chanceWords } from './words';

interface VerdictProps {
  symptom: SymptomId;
  base: RuleBase;
  possible: readonly Possible[];
  answers: Answers;
  /** What was dangerous is put right: the check goes on. */
  putRight: (testId: string, outcomeId: string) => void;
}

/** What is left, what to do about it, and whether it was that. */
export function Verdict({ symptom, base, possible, answers, putRight }: VerdictProps) {
  const [id] = useState(() => crypto.randomUUID());
  const keep = useChange(readyAtStation.keepRun, ['check runs']);
  const danger = base.tests.find(
    ({ id: testId, danger: words, outcomes }) =>
      words !== undefined && outcomes.some((one) => one.id === answers[testId] && one.shows !== 'rest'),
  );
  const rest = danger?.outcomes.find(({ shows }) => shows === 'rest');
  const tell = (found: string, fixed: boolean) => keep.mutate({ id, symptom, answers: { ...answers }, found, fixed });
  return (
    <Stack above={8} gap={8}>
      {possible.map(({ causeId, chance }) => {
        const { words, remedy } = causeWords(base, causeId);
        return (
          <Stack key={causeId} gap={4}>
            <Heading level={3}>{words}</Heading>
            <Body soft>{possible.length === 1 ? 'What is left of all that was possible' : chanceWords(chance)}</Body>
            {danger ? <Notice kind="alarm" title={remedy} /> : <Body>{remedy}</Body>}
            {!keep.isSuccess && !danger && causeId !== NOT_LISTED ? (
              <Stack align="start">
                <Button title="It was that" about={words} busy={keep.isPending} onPress={() => tell(causeId, true)} />
              </Stack>
            ) : null}
          </Stack>
        );
      })}
      {danger && rest ? (
        <Stack align="start">
          <Button
            title="It is put right: go on"
            about={danger.question}
            kind="plain"
            onPress={() => putRight(danger.id, rest.id)}
          />
        </Stack>
      ) : null}
      {!danger && !keep.isSuccess ? (
        <Stack align="start">
          <Button
            title={
              possible.length === 1 && possible[0]!.causeId === NOT_LISTED ? 'Keep this check' : 'It was none of this'
            }
            kind="plain"
            busy={keep.isPending}
            onPress={() => tell(NOT_LISTED, false)}
          />
        </Stack>
      ) : null}
      {keep.isError ? (
        <Notice kind="alarm" title="Not kept">
          {keep.error.message}
        </Notice>
      ) : null}
      {keep.isSuccess ? (
        <Notice title="Kept">
          <Body>
            {keep.variables.fixed
              ? 'Next time it is thought of sooner.'
              : 'When you know what it was, add it below: next time it is asked for.'}
          </Body>
        </Notice>
      ) : null}
    </Stack>
  );
}
