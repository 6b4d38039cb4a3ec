import { shown } from '@tombolo/core';
import type { ReactNode } from 'react';
import { Text, type TextProps } from 'react-native';
import { type, useLook } from './look';
import { scaledText } from './scale';
import { useTitle } from './title';

interface Words extends TextProps {
  children: ReactNode;
  soft?: boolean;
  bold?: boolean;
}

/** Texts from strangers stand among ours: what would turn or hide something is written out, everywhere. */
const safe = (children: ReactNode): ReactNode =>
  typeof children === 'string' ? shown(children) : Array.isArray(children) ? children.map(safe) : children;

/** Everything read by people: 16 px at least. */
export function Body({ soft, bold, style, children, ...rest }: Words) {
  const look = useLook();
  return (
    <Text
      {...rest}
      style={scaledText([
        {
          fontFamily: bold ? type.bold : type.body,
          fontSize: 16,
          lineHeight: 24,
          color: soft ? look.inkSoft : look.ink,
        },
        style,
      ])}
    >
      {safe(children)}
    </Text>
  );
}

/** Call signs, packets, numbers in columns: the mono face with a slashed zero. */
export function Mono({ soft, bold, style, children, ...rest }: Words) {
  const look = useLook();
  return (
    <Text
      {...rest}
      style={scaledText([
        {
          fontFamily: bold ? type.monoBold : type.mono,
          fontSize: 16,
          lineHeight: 24,
          color: soft ? look.inkSoft : look.ink,
        },
        style,
      ])}
    >
      {safe(children)}
    </Text>
  );
}

/** A heading; `level` 1 once a page, which the window is called by. */
export function Heading({ level = 2, style, children, ...rest }: Words & { level?: 1 | 2 | 3 }) {
  const look = useLook();
  useTitle(level === 1 && typeof children === 'string' ? shown(children) : null);
  return (
    <Text
      {...rest}
      role="heading"
      aria-level={level}
      style={scaledText([
        {
          fontFamily: type.bold,
          fontSize: level === 1 ? 26 : level === 2 ? 19 : 16,
          lineHeight: level === 1 ? 32 : 26,
          color: look.ink,
        },
        style,
      ])}
    >
      {safe(children)}
    </Text>
  );
}

/** A word for the ear alone, where the eye has an arrow or a mark. */
export function Spoken({ children }: { children: ReactNode }) {
  return (
    <Text
      {...({ dataSet: { paper: 'no' } } as object)}
      style={{ position: 'absolute', width: 1, height: 1, overflow: 'hidden' }}
    >
      {children}
    </Text>
  );
}
