import MaterialCommunityIcons from '@expo/vector-icons/MaterialCommunityIcons';
import type { ComponentProps } from 'react';
import { View } from 'react-native';
import { useLook } from './look';

export type IconName = ComponentProps<typeof MaterialCommunityIcons>['name'];

/** An icon beside words: it says nothing by itself, so it is hidden from screen readers. */
export function Icon({ name, size = 22, color }: { name: IconName; size?: number; color?: string }) {
  const look = useLook();
  return (
    <View aria-hidden style={{ width: size, height: size }}>
      <MaterialCommunityIcons name={name} size={size} color={color ?? look.ink} />
    </View>
  );
}
