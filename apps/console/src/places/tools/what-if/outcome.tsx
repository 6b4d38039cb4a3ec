import { counted, type Difference } from '@tombolo/core';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Row, Stack } from '../../../ui/layout';
import { Body, Heading, Mono } from '../../../ui/text';
import type { NetWords } from './net-words';
import { percent } from './percent';
import type { PlanOutcome } from './reckoned';
import { ShareBar } from '../../../ui/share-bar';

interface OutcomeProps {
  outcome: PlanOutcome;
  changed: boolean;
  words: NetWords;
  labelOf: (call: string) => string;
  nameOf: (call: string) => string;
  /** Of those who are cut off, what is said of their other addresses. */
  elsewhere: (cutOff: readonly string[]) => readonly string[];
  /** Thinks one of those away on whom others hang. */
  without: (call: string) => void;
}

/** Whom one would still reach, and on whom that hangs. */
export function Outcome({
  outcome: { rows, hanging },
  changed,
  words,
  labelOf,
  nameOf,
  elsewhere,
  without,
}: OutcomeProps) {
  return (
    <View>
      <Heading level={2}>Whom you reach</Heading>
      <Body bold below={4}>
        {summaryWords(rows, changed, nameOf, words)}
      </Body>
      {elsewhere(rows.filter(({ verdict }) => verdict === 'cut off').map(({ call }) => call)).map((said) => (
        <Body key={said} below={4}>
          {said}
        </Body>
      ))}
      <Body soft below={8}>
        {`Of 100 transmissions of yours so many would be heard there, ${words.by}, ${words.over}. What never was heard is a guess from the map.`}
      </Body>
      <View role="list" aria-label="Whom you reach">
        {rows.map((row) => (
          <Stack role="listitem" key={row.call} padY={6} ruled>
            <Row wrap justify="between" columnGap={12}>
              <Mono bold>{nameOf(row.call)}</Mono>
              <Body tone={row.verdict === 'cut off' ? 'alarm' : 'ink'}>
                {changed
                  ? `${percent(row.before)} → ${percent(row.after)} of 100, ${row.verdict}`
                  : `${percent(row.before)} of 100`}
              </Body>
            </Row>
            <ShareBar share={row.after} before={changed ? row.before : null} />
          </Stack>
        ))}
      </View>
      {changed ? <Body soft>The bar is what would be; the mark across it, what is.</Body> : null}
      {hanging.length > 0 ? (
        <Stack above={16}>
          <Heading level={2}>On whom it hangs</Heading>
          <View role="list" aria-label="On whom it hangs">
            {hanging.map((one) => (
              <Stack role="listitem" key={one.without} padY={4} align="start">
                <Body>{`Without ${labelOf(one.without)} no other way is known to ${one.cutOff.map(nameOf).join(', ')}.`}</Body>
                <Button title={`Think ${labelOf(one.without)} off`} kind="plain" onPress={() => without(one.without)} />
              </Stack>
            ))}
          </View>
        </Stack>
      ) : null}
    </View>
  );
}

/** What the changes come to, in a sentence. */
function summaryWords(
  rows: readonly Difference[],
  changed: boolean,
  nameOf: (call: string) => string,
  { station }: NetWords,
): string {
  const of = (verdict: Difference['verdict']) => rows.filter((row) => row.verdict === verdict);
  const reached = rows.filter(({ after }) => after >= 0.5).length;
  const most = `${reached} of ${counted(rows.length, station)} hear${reached === 1 ? 's' : ''} more than half of what you send.`;
  if (rows.length === 0)
    return station === 'node'
      ? 'No other node was heard yet.'
      : 'Nobody was heard yet, and nobody on the list of people has a call.';
  if (!changed) return most;
  const named = (some: readonly Difference[], words: string) =>
    some.length === 0 ? [] : [`${words}: ${some.map(({ call }) => nameOf(call)).join(', ')}.`];
  const told = [
    ...named(of('cut off'), 'Cut off'),
    ...named(of('worse'), 'Worse'),
    ...named(of('reached anew'), 'Reached anew'),
    ...named(of('better'), 'Better'),
  ];
  return told.length === 0 ? `Nothing would change that is worth a word. ${most}` : told.join(' ');
}
