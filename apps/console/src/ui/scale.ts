import { StyleSheet, type StyleProp, type TextStyle } from 'react-native';

/** The size of text on a page that nobody changed, px (CSS: `medium`). */
const USUAL_PX = 16;

const rootPx = (): number =>
  typeof document === 'undefined' ? USUAL_PX : parseFloat(getComputedStyle(document.documentElement).fontSize);

/** How much larger than usual this browser is told to write. React Native knows pixels alone, so sizes follow from this. */
const SCALE = (rootPx() || USUAL_PX) / USUAL_PX;

/** Pixels for a size that was meant for the usual one. */
export const scaled = (px: number): number => px * SCALE;

/** A style of text with its sizes in proportion to what the browser is told. */
export function scaledText(style: StyleProp<TextStyle>): TextStyle {
  const flat = StyleSheet.flatten(style) ?? {};
  if (SCALE === 1) return flat;
  const { fontSize, lineHeight } = flat;
  return {
    ...flat,
    ...(fontSize === undefined ? {} : { fontSize: scaled(fontSize) }),
    ...(lineHeight === undefined ? {} : { lineHeight: scaled(lineHeight) }),
  };
}
