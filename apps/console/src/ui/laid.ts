import type { ViewStyle } from 'react-native';

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
  grow: number;
  shrink: number;
  basis: number;
  /** A hairline below it, above, or on its left. */
  ruled: boolean;
  ruledAbove: boolean;
  ruledLeft: boolean;
  /** What belongs to the line above it: moved in behind a bar. */
  cited: boolean;
}

const STYLES: { readonly [P in keyof Laid]: (value: Laid[P], rule: string) => ViewStyle } = {
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
  width: (width) => ({ width }),
  minWidth: (minWidth) => ({ minWidth }),
  maxWidth: (maxWidth) => ({ maxWidth }),
  minHeight: (minHeight) => ({ minHeight }),
  align: (align) => ({ alignItems: ALIGNED[align] }),
  justify: (justify) => ({ justifyContent: JUSTIFIED[justify] }),
  self: (self) => ({ alignSelf: ALIGNED[self] }),
  wrap: (wrap) => (wrap ? { flexWrap: 'wrap' } : {}),
  fill: (fill) => (fill ? { flex: 1 } : {}),
  grow: (flexGrow) => ({ flexGrow }),
  shrink: (flexShrink) => ({ flexShrink }),
  basis: (flexBasis) => ({ flexBasis }),
  ruled: (ruled, rule) => (ruled ? { borderBottomWidth: 1, borderBottomColor: rule } : {}),
  ruledAbove: (ruled, rule) => (ruled ? { borderTopWidth: 1, borderTopColor: rule } : {}),
  ruledLeft: (ruled, rule) => (ruled ? { borderLeftWidth: 1, borderLeftColor: rule } : {}),
  cited: (cited, rule) => (cited ? { borderLeftWidth: 2, borderLeftColor: rule, paddingLeft: 8 } : {}),
};

/** Splits properties into the style of how a piece is laid out, and all others. `rule` is the colour of hairlines. */
export function laidOut<P extends object>(props: P, rule: string): { style: ViewStyle; rest: Omit<P, keyof Laid> } {
  const style: ViewStyle = {};
  const rest: Record<string, unknown> = {};
  // Without a list of entries between: this is done for every text.
  for (const name in props) {
    const value = props[name];
    const styleOf = (STYLES as Record<string, ((value: never, rule: string) => ViewStyle) | undefined>)[name];
    if (!styleOf) rest[name] = value;
    else if (value !== undefined) Object.assign(style, styleOf(value as never, rule));
  }
  return { style, rest: rest as Omit<P, keyof Laid> };
}
