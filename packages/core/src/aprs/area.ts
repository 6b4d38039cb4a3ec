import type { Note } from './note';
import type { Symbol } from './symbol';

/** A figure on the map from a corner (Protocol Reference 1.0.1, ch. 11, area objects). */
export interface Area {
  readonly shape: 'circle' | 'line' | 'ellipse' | 'triangle' | 'box';
  readonly filled: boolean;
  /** 0–15: black, blue, green, cyan, red, violet, yellow, grey; from 8 on the same, dim (ch. 11). */
  readonly colour: number;
  /** From the corner southward; degrees. */
  readonly southDeg: number;
  /** From the corner, east positive; only a line may go west. */
  readonly eastDeg: number;
  /** Width of a corridor along a line, miles. */
  readonly corridorMi: number | null;
}

const SHAPES = ['circle', 'line', 'ellipse', 'triangle', 'box'] as const;
/** Offsets are sent as square roots of fifteen-hundredths of a degree (from memory of ch. 11). */
const PER_DEGREE = 1500;
const AREA = /^([0-9])(\d\d)(\/\d|1[0-5])(\d\d)/;
const CORRIDOR = /^\{(\d{1,3})\}/;

export const isAreaSymbol = ({ table, code }: Symbol): boolean => table === '\\' && code === 'l';

/** `Tyy/Cxx` or, for colours from ten on, `Tyy1Cxx`; and `{www}` behind a line. Null when it is none. */
export function decodeArea(text: string, at: number, note?: Note): { area: Area; end: number } | null {
  const found = AREA.exec(text.slice(at, at + 7));
  if (!found) return null;
  const type = Number(found[1]);
  const shape = SHAPES[type % 5]!;
  let end = at + 7;
  const corridor = shape === 'line' ? CORRIDOR.exec(text.slice(end, end + 5)) : null;
  if (corridor) end += corridor[0].length;
  const offset = (digits: string) => Number(digits) ** 2 / PER_DEGREE;
  const area: Area = {
    shape,
    // A line has no inside: its second form goes to the other side.
    filled: type >= 5 && shape !== 'line',
    colour: Number(found[3]!.replace('/', '')),
    southDeg: offset(found[2]!),
    eastDeg: type === 6 ? -offset(found[4]!) : offset(found[4]!),
    corridorMi: corridor ? Number(corridor[1]) : null,
  };
  note?.(
    'Area',
    `${area.filled ? 'filled ' : ''}${shape}, ${area.southDeg.toFixed(3)}° by ${Math.abs(area.eastDeg).toFixed(3)}°` +
      (area.corridorMi === null ? '' : `, a corridor of ${area.corridorMi} miles`),
    at,
    end,
  );
  return { area, end };
}

const SIGNPOST = /\{([^{}]{1,3})\}/;
export const isSignpostSymbol = ({ table, code }: Symbol): boolean => table === '\\' && code === 'm';

/** What stands on a signpost: one to three characters in braces (ch. 11). */
export const signpostIn = (comment: string): string | null => SIGNPOST.exec(comment)?.[1] ?? null;
