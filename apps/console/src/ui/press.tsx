import type { ComponentProps } from 'react';
import { Pressable } from 'react-native';
import { laidOut, type Laid } from './laid';
import { useLook } from './look';

interface PressProps extends Omit<ComponentProps<typeof Pressable>, 'style'>, Partial<Laid> {
  /** What it holds stands beside each other, not below. */
  row?: boolean;
}

/** Something that is pressed and holds more than a word; its role and name are given by whoever uses it. */
export function Press({ row, ...props }: PressProps) {
  const { style, rest } = laidOut(props, useLook());
  return <Pressable {...rest} style={[row && { flexDirection: 'row' }, style]} />;
}
