import { causeWords, type Possible as PossibleCause, type RuleBase } from '@tombolo/core';
import { View } from 'react-native';
import { useLook } from '../../../ui/look';
import { Body, Heading } from '../../../ui/text';
import { chanceWords, possibleWords } from './words';

/** What is still possible, the likeliest first. */
export function Possible({ base, possible }: { base: RuleBase; possible: readonly PossibleCause[] }) {
  const look = useLook();
  return (
    <View style={{ marginTop: 16 }}>
      <Heading level={3}>{possibleWords(possible.length)}</Heading>
      <View role="list" aria-label="Still possible">
        {possible.map(({ causeId, chance }) => (
          <View
            key={causeId}
            role="listitem"
            style={{ paddingVertical: 6, borderBottomWidth: 1, borderBottomColor: look.rule }}
          >
            <Body>{causeWords(base, causeId).words}</Body>
            <Body soft>{chanceWords(chance)}</Body>
          </View>
        ))}
      </View>
    </View>
  );
}
