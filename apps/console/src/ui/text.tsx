import { shown } from '@tombolo/core';
import type { ReactNode } from 'react';
import { Text, type TextProps } from 'react-native';
import { laidOut, type Laid } from './laid';
import { type, useLook } from './look';
import { scaledText } from './scale';
import { useTitle } from './title';

/** How a text stands among others. */
type Placed = Pick<
  Laid,
  | 'above'
  | 'below'
  | 'around'
  | 'inset'
  | 'padX'
  | 'minHeight'
  | 'width'
  | 'minWidth'
  | 'self'
  | 'fill'
  | 'grow'
  | 'shrink'
  | 'basis'
>;

interface Words extends Omit<TextProps, 'style'>, Partial<Placed> {
  'aria-level'?: 1 | 2 | 3;
  children: ReactNode;
  soft?: boolean;
  bold?: boolean;
  /** A colour of the look, where it says something. */
  tone?: 'ink' | 'inkSoft' | 'alarm' | 'tide' | 'onTide' | 'sandText';
  /** Its lines end on the right. */
  right?: boolean;
  /** Of the letters and of the line, px; where the usual does not serve. */
  size?: number;
  line?: number;
}

/** Texts from strangers stand among ours: what would turn or hide something is written out, everywhere. */
const safe = (children: ReactNode): ReactNode =>
  typeof children === 'string' ? shown(children) : Array.isArray(children) ? children.map(safe) : children;

interface Face {
  readonly plain: string;
  readonly bold: string;
  readonly size: number;
  readonly line: number;
}
const BODY: Face = { plain: type.body, bold: type.bold, size: 16, line: 24 };
const MONO: Face = { plain: type.mono, bold: type.monoBold, size: 16, line: 24 };
const HEADINGS: Readonly<Record<1 | 2 | 3, Face>> = {
  1: { plain: type.bold, bold: type.bold, size: 26, line: 32 },
  2: { plain: type.bold, bold: type.bold, size: 19, line: 26 },
  3: { plain: type.bold, bold: type.bold, size: 16, line: 26 },
};

/** Called, not rendered: lists show thousands of texts, and each component costs. */
function useLettered(face: Face, { soft, bold, tone, size, line, right, children, ...more }: Words) {
  const look = useLook();
  const { style: laid, rest } = laidOut(more, look);
  return (
    <Text
      {...rest}
      style={scaledText([
        {
          fontFamily: bold ? face.bold : face.plain,
          fontSize: size ?? face.size,
          lineHeight: line ?? face.line,
          color: look[tone ?? (soft ? 'inkSoft' : 'ink')],
        },
        right && { textAlign: 'right' },
        laid,
      ])}
    >
      {safe(children)}
    </Text>
  );
}

/** Everything read by people: 16 px at least. */
export function Body(props: Words) {
  return useLettered(BODY, props);
}

/** Call signs, packets, numbers in columns: the mono face with a slashed zero. */
export function Mono(props: Words) {
  return useLettered(MONO, props);
}

/** A heading; `level` 1 once a page, which the window is called by. */
export function Heading({ level = 2, ...props }: Words & { level?: 1 | 2 | 3 }) {
  const { children } = props;
  useTitle(level === 1 && typeof children === 'string' ? shown(children) : null);
  return useLettered(HEADINGS[level], { ...props, role: 'heading', 'aria-level': level });
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
