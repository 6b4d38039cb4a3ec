import type { Seen } from '@tombolo/core';
import { View } from 'react-native';
import { Stack } from '../../../ui/layout';
import { Body, Heading } from '../../../ui/text';

/** What the station looked up itself, so that nobody is asked. */
export function SeenList({ seen }: { seen: readonly Seen[] }) {
  if (seen.length === 0) return null;
  return (
    <Stack above={16}>
      <Heading level={3}>Seen by the station</Heading>
      <View role="list" aria-label="Seen by the station">
        {seen.map(({ testId, words }) => (
          <Stack key={testId} role="listitem" padY={4}>
            <Body soft>{words}</Body>
          </Stack>
        ))}
      </View>
    </Stack>
  );
}
