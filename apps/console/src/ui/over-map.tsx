import type { ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Icon, type IconName } from './icon';
import { useLook } from './look';

/** Holds a map and what stands over it. */
export const MapFrame = ({ children }: { children: ReactNode }) => (
  <View style={{ flex: 1, minHeight: 0, overflow: 'hidden' }}>{children}</View>
);

/** Tools over a map, at its right edge. */
export const MapTools = ({ label, children }: { label: string; children: ReactNode }) => (
  <View
    role="toolbar"
    aria-label={label}
    style={{ position: 'absolute', right: 8, top: 8, gap: 6, alignItems: 'flex-end' }}
  >
    {children}
  </View>
);

interface MapToolProps {
  name: IconName;
  label: string;
  onPress: () => void;
  pressed?: boolean;
}

export function MapTool({ name, label, onPress, pressed }: MapToolProps) {
  const look = useLook();
  return (
    <Pressable
      role="button"
      aria-label={label}
      aria-pressed={pressed}
      onPress={onPress}
      style={{
        width: 48,
        height: 48,
        alignItems: 'center',
        justifyContent: 'center',
        backgroundColor: pressed ? look.tide : look.leaf,
        borderWidth: 1,
        borderColor: look.rule,
        borderRadius: 4,
      }}
    >
      <Icon name={name} color={pressed ? look.onTide : look.tide} />
    </Pressable>
  );
}

/** What is told over a map, beside its tools. */
export function OverMap({ children }: { children: ReactNode }) {
  const look = useLook();
  return (
    <View
      role="status"
      style={{
        position: 'absolute',
        left: 8,
        right: 64,
        top: 8,
        maxWidth: 420,
        gap: 8,
        padding: 12,
        backgroundColor: look.leaf,
        borderWidth: 1,
        borderColor: look.rule,
      }}
    >
      {children}
    </View>
  );
}
