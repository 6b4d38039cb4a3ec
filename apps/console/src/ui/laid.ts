import type { ViewStyle } from 'react-native';
import type { Look } from './lights';

/** A colour of the look. */
export type Tone = keyof Look;

const ALIGNED = {
  start: 'flex-start',
  center: 'center',
  end: 'flex-end',
  baseline: 'baseline',
  stretch: 'stretch',
} as const;
const JUSTIFIED = { start: 'flex-start', center: 'center', end: 'flex-end', between: 'space-between' } as const;

/** How a piece is laid out; lengths are density-independent pixels. */
export interface Laid {
  /** Between its pieces. */
  gap: number;
  columnGap: number;
  /** Outside of it. */
  above: number;
  below: number;
  around: number;
  /** Inside of it. */
  pad: number;
  padX: number;
  padY: number;
  padTop: number;
  padBottom: number;
  padLeft: number;
  padRight: number;
  /** Moved in from the left; out on both sides, over what it stands in. */
  inset: number;
  out: number;
  width: number;
  minWidth: number;
  maxWidth: number;
  minHeight: number;
  /** Its pieces across the line that they stand in, and along it; itself in what holds it. */
  align: keyof typeof ALIGNED;
  justify: keyof typeof JUSTIFIED;
  self: keyof typeof ALIGNED;
  wrap: boolean;
  /** Takes what room there is. */
  fill: boolean;
  /** Takes so many shares of the room there is. */
  share: number;
  grow: number;
  shrink: number;
  basis: number;
  /** A hairline below it, above, or on a side; in a colour of its own below. */
  ruled: boolean | Tone;
  ruledAbove: boolean;
  ruledLeft: boolean;
  ruledRight: boolean;
  /** A broad line below it: what can be put in. */
  underlined: Tone;
  /** What belongs to the line above it: moved in behind a bar. */
  cited: boolean | Tone;
  ground: Tone;
  /** A line all around it, and how wide. */
  framed: Tone;
  frameWidth: number;
  rounded: number;
  /** A broad line on its left, or above: what is open, or whose it is; `none` keeps the room. */
  mark: Tone | 'none';
  markAbove: Tone | 'none';
}

const colourOf = (look: Look, tone: Tone | 'none'): string => (tone === 'none' ? 'transparent' : look[tone]);
const ruleOf = (look: Look, ruled: true | Tone): string => (ruled === true ? look.rule : look[ruled]);

const STYLES: { readonly [P in keyof Laid]: (value: Laid[P], look: Look) => ViewStyle } = {
  gap: (gap) => ({ gap }),
  columnGap: (columnGap) => ({ columnGap }),
  above: (marginTop) => ({ marginTop }),
  below: (marginBottom) => ({ marginBottom }),
  around: (marginVertical) => ({ marginVertical }),
  pad: (padding) => ({ padding }),
  padX: (paddingHorizontal) => ({ paddingHorizontal }),
  padY: (paddingVertical) => ({ paddingVertical }),
  padTop: (paddingTop) => ({ paddingTop }),
  padBottom: (paddingBottom) => ({ paddingBottom }),
  padLeft: (paddingLeft) => ({ paddingLeft }),
  padRight: (paddingRight) => ({ paddingRight }),
  inset: (marginLeft) => ({ marginLeft }),
  out: (px) => ({ marginHorizontal: -px }),
  width: (width) => ({ width }),
  minWidth: (minWidth) => ({ minWidth }),
  maxWidth: (maxWidth) => ({ maxWidth }),
  minHeight: (minHeight) => ({ minHeight }),
  align: (align) => ({ alignItems: ALIGNED[align] }),
  justify: (justify) => ({ justifyContent: JUSTIFIED[justify] }),
  self: (self) => ({ alignSelf: ALIGNED[self] }),
  wrap: (wrap) => (wrap ? { flexWrap: 'wrap' } : {}),
  fill: (fill) => (fill ? { flex: 1 } : {}),
  share: (flex) => ({ flex }),
  grow: (flexGrow) => ({ flexGrow }),
  shrink: (flexShrink) => ({ flexShrink }),
  basis: (flexBasis) => ({ flexBasis }),
  ruled: (ruled, look) => (ruled ? { borderBottomWidth: 1, borderBottomColor: ruleOf(look, ruled) } : {}),
  ruledAbove: (ruled, look) => (ruled ? { borderTopWidth: 1, borderTopColor: look.rule } : {}),
  ruledLeft: (ruled, look) => (ruled ? { borderLeftWidth: 1, borderLeftColor: look.rule } : {}),
  ruledRight: (ruled, look) => (ruled ? { borderRightWidth: 1, borderRightColor: look.rule } : {}),
  underlined: (tone, look) => ({ borderBottomWidth: 2, borderBottomColor: look[tone] }),
  cited: (cited, look) => (cited ? { borderLeftWidth: 2, borderLeftColor: ruleOf(look, cited), paddingLeft: 8 } : {}),
  ground: (tone, look) => ({ backgroundColor: look[tone] }),
  framed: (tone, look) => ({ borderWidth: 1, borderColor: look[tone] }),
  frameWidth: (borderWidth) => ({ borderWidth }),
  rounded: (borderRadius) => ({ borderRadius }),
  mark: (tone, look) => ({ borderLeftWidth: 3, borderLeftColor: colourOf(look, tone) }),
  markAbove: (tone, look) => ({ borderTopWidth: 3, borderTopColor: colourOf(look, tone) }),
};

/** Splits properties into the style of how a piece is laid out, and all others. Its colours are those of the look. */
export function laidOut<P extends object>(props: P, look: Look): { style: ViewStyle; rest: Omit<P, keyof Laid> } {
  const style: ViewStyle = {};
  const rest: Record<string, unknown> = {};
  // Without a list of entries between: this is done for every text.
  for (const name in props) {
    const value = props[name];
    const styleOf = (STYLES as Record<string, ((value: never, look: Look) => ViewStyle) | undefined>)[name];
    if (!styleOf) rest[name] = value;
    else if (value !== undefined) Object.assign(style, styleOf(value as never, look));
  }
  return { style, rest: rest as Omit<P, keyof Laid> };
}
