import { View } from 'react-native';
import { usePreferences } from '../../live/preferences';
import { CheckRow } from '../../ui/choice';
import { Row } from '../../ui/layout';
import { Overlay } from '../../ui/overlay';
import { Body, Mono } from '../../ui/text';

const SHORTCUTS = [
  ['t', 'Traffic'],
  ['c', 'Chart'],
  ['w', 'Write'],
  ['b', 'Bearers'],
  ['g', 'Log'],
  ['?', 'this list'],
  ['Ctrl+Enter', 'in Write: send, when it can be sent'],
] as const;

/** The keys that lead somewhere by themselves, and whether they shall. */
export function ShortcutList({ close }: { close: () => void }) {
  return (
    <Overlay title="Keys" close={close}>
      <View role="list" aria-label="Keys">
        {SHORTCUTS.map(([key, what]) => (
          <Row key={key} role="listitem" gap={16} minHeight={36}>
            <Mono bold width={112}>
              {key}
            </Mono>
            <Body>{what}</Body>
          </Row>
        ))}
      </View>
      <SingleKeys />
    </Overlay>
  );
}

/** Keys by themselves are in the way of whoever dictates, or presses one unawares (WCAG 2.1.4): they can be switched off. */
export function SingleKeys() {
  const { singleKeys, prefer } = usePreferences();
  return (
    <CheckRow
      label="Single keys go to places"
      hint="On this device. Off, no key acts by itself but Tab, Enter, Space, Escape and the arrows."
      checked={singleKeys}
      onChange={(on) => prefer({ singleKeys: on })}
    />
  );
}
