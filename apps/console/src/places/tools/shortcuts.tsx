import { View } from 'react-native';
import { Button } from '../../ui/button';
import { Page } from '../../ui/page';
import { Body, Mono } from '../../ui/text';

const SHORTCUTS = [
  ['t', 'Traffic'],
  ['c', 'Chart'],
  ['w', 'Write'],
  ['b', 'Bearers'],
  ['g', 'Log'],
  ['?', 'this list'],
] as const;

export function ShortcutList({ close }: { close: () => void }) {
  return (
    <Page title="Keys">
      {SHORTCUTS.map(([key, what]) => (
        <View key={key} style={{ flexDirection: 'row', gap: 16, minHeight: 36 }}>
          <Mono bold style={{ width: 32 }}>
            {key}
          </Mono>
          <Body>{what}</Body>
        </View>
      ))}
      <Button title="Close" kind="plain" onPress={close} />
    </Page>
  );
}
