/**
 * Packets on their way through digipeaters of every behaviour, with a record of what really happened. It shares no code with the
 * reading of paths: what is said of a path is held against this.
 */

/** An element as it stands in a frame: the word and its H bit. */
export interface Element {
  readonly word: string;
  readonly h: boolean;
}

export interface Digipeater {
  readonly call: string;
  /** How it leaves its call when it answers to a generic element. */
  readonly signs: 'in front' | 'in place' | 'not at all';
  /** `fill-in`: WIDE1-1 alone; `wide`: every counted element; `plain`: words without a count. It always answers to its own call. */
  readonly serves: readonly ('fill-in' | 'wide' | 'plain')[];
  /** What it does when its call stands behind elements that nobody used yet. */
  readonly early: 'waits' | 'leaves them' | 'drops them' | 'moves in front';
}

export interface Transmitted {
  readonly call: string;
  readonly signed: boolean;
}

/** A history: the path that the source asked for, and who transmitted it after the source, in order. */
export interface History {
  readonly source: string;
  readonly elements: readonly Element[];
  readonly transmitted: readonly Transmitted[];
}

const MOST = 8;

/** What goes out of a digipeater for what came in; null when it stays silent. */
export function repeat(
  elements: readonly Element[],
  digipeater: Digipeater,
): { elements: Element[]; signed: boolean } | null {
  const { call, signs, serves, early } = digipeater;
  let last = -1;
  elements.forEach(({ h }, i) => (last = h ? i : last));
  const at = last + 1;
  const next = elements[at];
  if (!next) return null;
  const before = elements.slice(0, at);
  const behind = elements.slice(at + 1);
  const own = { word: call, h: true };
  if (next.word === call) return { elements: [...before, own, ...behind], signed: true };
  const later = elements.findIndex(({ word, h }, i) => i > at && word === call && !h);
  if (later >= 0 && early !== 'waits') {
    const skipped = elements.slice(at, later);
    const rest = elements.slice(later + 1);
    if (early === 'leaves them') return { elements: [...before, ...skipped, own, ...rest], signed: true };
    if (early === 'drops them') return { elements: [...before, own, ...rest], signed: true };
    return { elements: [...before, own, ...skipped, ...rest], signed: true };
  }
  const counted = next.word.match(/^([A-Z]+)([1-7])-([1-7])$/);
  let left: Element;
  if (counted) {
    const [, name, n, remaining] = counted;
    if (!serves.includes('wide') && !(serves.includes('fill-in') && next.word === 'WIDE1-1')) return null;
    const still = Number(remaining) - 1;
    left = still === 0 ? { word: `${name}${n}`, h: true } : { word: `${name}${n}-${still}`, h: false };
  } else {
    if (!serves.includes('plain') || !/^(RELAY|LOCAL|TEMP1)$/.test(next.word)) return null;
    left = { word: next.word, h: true };
  }
  if (signs === 'not at all') return { elements: [...before, left, ...behind], signed: false };
  if (signs === 'in place' && left.h) return { elements: [...before, own, ...behind], signed: true };
  if (elements.length >= MOST) return { elements: [...before, left, ...behind], signed: false };
  return { elements: [...before, own, left, ...behind], signed: true };
}

/** Sends a packet through digipeaters one after another; those that stay silent are passed by. */
export function travel(source: string, asked: readonly string[], digipeaters: readonly Digipeater[]): History {
  let elements: readonly Element[] = asked.map((word) => ({ word, h: false }));
  const transmitted: Transmitted[] = [];
  for (const digipeater of digipeaters) {
    const out = repeat(elements, digipeater);
    if (!out) continue;
    elements = out.elements;
    transmitted.push({ call: digipeater.call, signed: out.signed });
  }
  return { source, elements, transmitted };
}

/** The path as a text monitor writes it: one star. */
export function asText({ source, elements }: History): string {
  let last = -1;
  elements.forEach(({ h }, i) => (last = h ? i : last));
  return `${source}>APRS${elements.map(({ word }, i) => `,${word}${i === last ? '*' : ''}`).join('')}:x`;
}

/** Every way a digipeater of a call may behave. */
export function behaviours(call: string): Digipeater[] {
  const found: Digipeater[] = [];
  for (const signs of ['in front', 'in place', 'not at all'] as const)
    for (const early of ['waits', 'leaves them', 'drops them', 'moves in front'] as const)
      found.push({ call, signs, early, serves: ['fill-in', 'wide', 'plain'] });
  return found;
}

/** All histories of up to `most` hops by stations of these calls, each at most once, over every path of up to three of these words. */
export function allHistories(
  source: string,
  calls: readonly string[],
  words: readonly string[],
  most: number,
): History[] {
  const paths: string[][] = [[]];
  for (const a of words) {
    paths.push([a]);
    for (const b of words) {
      paths.push([a, b]);
      for (const c of words) paths.push([a, b, c]);
    }
  }
  const all = new Map<string, History>();
  const grow = (history: History) => {
    const key = JSON.stringify([history.elements, history.transmitted]);
    if (all.has(key)) return;
    all.set(key, history);
    if (history.transmitted.length === most) return;
    for (const call of calls) {
      if (history.transmitted.some((one) => one.call === call)) continue;
      for (const digipeater of behaviours(call)) {
        const out = repeat(history.elements, digipeater);
        if (out)
          grow({ source, elements: out.elements, transmitted: [...history.transmitted, { call, signed: out.signed }] });
      }
    }
  };
  for (const path of paths) grow({ source, elements: path.map((word) => ({ word, h: false })), transmitted: [] });
  return [...all.values()];
}
