/** A mark of the picture, with what it is called; pixels from the upper left. */
export interface Marked {
  readonly key: string;
  readonly x: number;
  readonly y: number;
  readonly text: string;
}

export interface Label {
  readonly x: number;
  /** Of the line that the letters stand on. */
  readonly y: number;
  readonly anchor: 'start' | 'end' | 'middle';
}

interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Half of a mark, and from its middle to the label beside it. */
const MARK_PX = 7;
const BESIDE_PX = 9;

const meet = (a: Box, b: Box): boolean => a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/**
 * Where each mark is named without covering a name or another mark: to its right, else to its left, above or below. Those that stand first are
 * named first; where there is no room a mark stays without a name, and only the lists tell it.
 * @param letters how wide and high one is, px
 */
export function labelsOf(
  marks: readonly Marked[],
  picture: { readonly width: number; readonly height: number },
  letters: { readonly width: number; readonly height: number },
): ReadonlyMap<string, Label> {
  const marked = marks.map(({ key, x, y }) => ({
    key,
    box: { left: x - MARK_PX, top: y - MARK_PX, right: x + MARK_PX, bottom: y + MARK_PX },
  }));
  const taken: Box[] = [];
  const labels = new Map<string, Label>();
  for (const { key, x, y, text } of marks) {
    const wide = text.length * letters.width;
    const up = letters.height / 2;
    const places: readonly (Label & { readonly left: number })[] = [
      { x: x + BESIDE_PX, y: y + up / 2, anchor: 'start', left: x + BESIDE_PX },
      { x: x - BESIDE_PX, y: y + up / 2, anchor: 'end', left: x - BESIDE_PX - wide },
      { x, y: y - BESIDE_PX, anchor: 'middle', left: x - wide / 2 },
      { x, y: y + BESIDE_PX + letters.height - 2, anchor: 'middle', left: x - wide / 2 },
    ];
    for (const { left, ...label } of places) {
      const box = { left, right: left + wide, top: label.y - letters.height + 2, bottom: label.y + 2 };
      const isInside = left >= 0 && box.right <= picture.width && box.top >= 0 && box.bottom <= picture.height;
      const isFree =
        !taken.some((other) => meet(box, other)) && !marked.some((other) => other.key !== key && meet(box, other.box));
      if (!isInside || !isFree) continue;
      taken.push(box);
      labels.set(key, label);
      break;
    }
  }
  return labels;
}
