import type { Seen } from '@tombolo/core';
import { View } from 'react-native';
import { Body, Heading } from '../../../ui/text';

/** What the station looked up itself, so that nobody is asked. */
export function SeenList({ seen }: { seen: readonly Seen[] }) {
  if (seen.length === 0) return null;
  return (
    <View style={{ marginTop: 16 }}>
      <Heading level={3}>Seen by the station</Heading>
      <View role="list" aria-label="Seen by the station">
        {seen.map(({ testId, words }) => (
          <View key={testId} role="listitem" style={{ paddingVertical: 4 }}>
            <Body soft>{words}</Body>
          </View>
        ))}
      </View>
    </View>
  );
}
