/** Where the middle of a line of letters stands from what it names: pixels to the right and down. */
export interface NamePlace {
  readonly x: number;
  readonly y: number;
  readonly align: 'left' | 'center' | 'right';
}

/** Pixels to the right of and below what is named. */
export interface PixelBox {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Of an area the name stands on it, else a little off to any side; of a spot beside its dot. */
const ON: readonly NamePlace[] = [
  { x: 0, y: 0, align: 'center' },
  ...[28, -28, 48, -48].map((y) => ({ x: 0, y, align: 'center' as const })),
  { x: 26, y: 0, align: 'left' },
  { x: -26, y: 0, align: 'right' },
];
const BESIDE: readonly NamePlace[] = [
  { x: 16, y: -8, align: 'left' },
  { x: 16, y: 10, align: 'left' },
  { x: -16, y: -8, align: 'right' },
  { x: -16, y: 10, align: 'right' },
];

/** A letter of our faces takes half of their height or less; this leaves some air. */
const LETTER_WIDTH = 0.56;

function boxOf({ x, y, align }: NamePlace, text: string, sizePx: number): PixelBox {
  const wide = text.length * sizePx * LETTER_WIDTH;
  const left = align === 'left' ? x : align === 'right' ? x - wide : x - wide / 2;
  return { left, right: left + wide, top: y - sizePx / 2, bottom: y + sizePx / 2 };
}

/** Where a name covers nothing that matters more; where it first would stand when there is no such place, for a map without names misleads. */
export function roomFor(
  text: string,
  { sizePx, isArea }: { readonly sizePx: number; readonly isArea: boolean },
  isFree: (box: PixelBox) => boolean,
): NamePlace {
  const places = isArea ? ON : BESIDE;
  return places.find((place) => isFree(boxOf(place, text, sizePx))) ?? places[0]!;
}
