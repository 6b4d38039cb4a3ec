import type { Symbol } from './symbol';

/** Runs of codes and the letters that stand for them in a destination, for both tables (Protocol Reference 1.0.1, ch. 20, from memory). */
const RUNS = [
  { from: '!', count: 15, primary: 'B', alternate: 'O', second: 'B' },
  { from: '0', count: 10, primary: 'P', alternate: 'A', second: '0' },
  { from: ':', count: 7, primary: 'M', alternate: 'N', second: 'R' },
  { from: 'A', count: 26, primary: 'P', alternate: 'A', second: 'A' },
  { from: '[', count: 6, primary: 'H', alternate: 'D', second: 'S' },
  { from: 'a', count: 26, primary: 'L', alternate: 'S', second: 'A' },
  { from: '{', count: 4, primary: 'J', alternate: 'Q', second: '1' },
] as const;

const LETTERS = /^(?:GPS|SPC|SYM)([A-Z])([A-Z0-9])([A-Z0-9])?(?:-\d+)?$/;
const NUMBERED = /^GPS([CE])(\d\d)(?:-\d+)?$/;

/** The symbol that a destination such as `GPSMV` or `GPSC30` names; null when it names none. */
export function symbolOfDestination(destination: string): Symbol | null {
  const numbered = NUMBERED.exec(destination);
  if (numbered) {
    const number = Number(numbered[2]);
    if (number < 1 || number > 94) return null;
    return { table: numbered[1] === 'C' ? '/' : '\\', code: String.fromCharCode(0x20 + number) };
  }
  const found = LETTERS.exec(destination);
  if (!found) return null;
  const [, first, second, overlay] = found;
  for (const run of RUNS) {
    const at = second!.charCodeAt(0) - run.second.charCodeAt(0);
    if (at < 0 || at >= run.count || (first !== run.primary && first !== run.alternate)) continue;
    const primary = first === run.primary;
    return {
      // An overlay stands on symbols of the alternate table only.
      table: primary ? '/' : (overlay ?? '\\'),
      code: String.fromCharCode(run.from.charCodeAt(0) + at),
    };
  }
  return null;
}

const DIRECTIONS = ['north', 'south', 'east', 'west'] as const;

/** What the SSID of a destination asks of digipeaters that know this, in words (ch. 4, generic digipeater paths); null for none. */
export function routeOfDestination(destination: string): string | null {
  const ssid = Number(/-(\d{1,2})$/.exec(destination)?.[1] ?? 0);
  if (ssid === 0 || ssid > 15) return null;
  if (ssid <= 7) return `like WIDE${ssid}-${ssid}`;
  const direction = DIRECTIONS[(ssid - 8) % 4]!;
  return ssid < 12 ? `toward the ${direction}` : `toward the ${direction}, like WIDE2-2`;
}
