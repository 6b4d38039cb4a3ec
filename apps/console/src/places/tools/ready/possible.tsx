import { causeWords, type Possible as PossibleCause, type RuleBase } from '@tombolo/core';
import { View } from 'react-native';
import { Stack } from '../../../ui/layout';
import { Body, Heading } from '../../../ui/text';
import { chanceWords, possibleWords } from './words';

/** What is still possible, the likeliest first. */
export function Possible({ base, possible }: { base: RuleBase; possible: readonly PossibleCause[] }) {
  return (
    <Stack above={16}>
      <Heading level={3}>{possibleWords(possible.length)}</Heading>
      <View role="list" aria-label="Still possible">
        {possible.map(({ causeId, chance }) => (
          <Stack key={causeId} role="listitem" padY={6} ruled>
            <Body>{causeWords(base, causeId).words}</Body>
            <Body soft>{chanceWords(chance)}</Body>
          </Stack>
        ))}
      </View>
    </Stack>
  );
}
