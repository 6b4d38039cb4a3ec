import type { ComponentProps } from 'react';
import { View } from 'react-native';
import { laidOut, type Laid } from './laid';
import { useLook } from './look';

type LayoutProps = Omit<ComponentProps<typeof View>, 'style'> & Partial<Laid>;

/** Pieces beside each other. */
export function Row(props: LayoutProps) {
  const { style, rest } = laidOut(props, useLook());
  return <View {...rest} style={{ flexDirection: 'row', ...style }} />;
}

/** Pieces below each other. */
export function Stack(props: LayoutProps) {
  const { style, rest } = laidOut(props, useLook());
  return <View {...rest} style={{ flexDirection: 'column', ...style }} />;
}
