import { Pressable } from 'react-native';
import { focusHeading } from './heading-focus';
import { leadsTo } from './link';
import { useLook } from './look';
import { Body } from './text';

/** The first stop of the Tab key: past the places to what this one shows. Seen only when it is reached. */
export function SkipLink() {
  const look = useLook();
  return (
    <Pressable
      {...leadsTo('#place', () => void focusHeading())}
      style={(state) => ({
        position: 'absolute',
        zIndex: 1,
        left: (state as { focused?: boolean }).focused ? 8 : -9999,
        top: 8,
        minHeight: 48,
        paddingHorizontal: 16,
        justifyContent: 'center',
        backgroundColor: look.leaf,
        borderWidth: 1,
        borderColor: look.tide,
      })}
    >
      <Body bold tone="tide">
        Skip to this place
      </Body>
    </Pressable>
  );
}
