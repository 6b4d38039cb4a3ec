import { counted, type SheetDifference } from '@tombolo/core';
import { View } from 'react-native';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';

/** What is keyed in otherwise than into our own set of the same kind. */
export function SheetDifferences({ differences, theirs }: { differences: readonly SheetDifference[]; theirs: string }) {
  return (
    <Notice
      title={
        differences.length === 0
          ? `Nothing differs from our own sheet`
          : `${counted(differences.length, 'line')} of ${theirs} ${differences.length === 1 ? 'differs' : 'differ'} from ours`
      }
    >
      <View role="list" aria-label="Differences">
        {differences.map(({ id, what, ours, theirs: their }) => (
          <View key={id} role="listitem">
            <Body>{`${what}: ${their ?? 'not asked'}; ours: ${ours ?? 'not asked'}`}</Body>
          </View>
        ))}
      </View>
    </Notice>
  );
}
