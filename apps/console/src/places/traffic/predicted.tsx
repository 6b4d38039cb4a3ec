import type { ItemDetail } from '@tombolo/contract';
import { ofHundred } from '@tombolo/core';
import { View } from 'react-native';
import { Body, Heading } from '../../ui/text';

/** What was expected when it was queued, as it was kept then. */
export function Predicted({ predictions }: Pick<ItemDetail, 'predictions'>) {
  const all = Object.entries(predictions);
  if (all.length === 0) return null;
  return (
    <View style={{ marginBottom: 12 }}>
      <Heading level={2}>What was expected</Heading>
      {all.map(([leg, { proven, basis, rests }]) => (
        <View key={leg} style={{ marginBottom: 8 }}>
          <Body>
            {`When it was queued: of 100 such sendings about ${ofHundred(proven.chance)} would be proved (${ofHundred(proven.low)} to ${ofHundred(proven.high)}), ${basis === 'map' ? 'a guess from the map' : 'by what was heard and tried'}.`}
          </Body>
          {rests.map((words) => (
            <Body soft key={words}>
              {words}
            </Body>
          ))}
        </View>
      ))}
    </View>
  );
}
