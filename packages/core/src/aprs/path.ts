import type { Hop, Packet } from './packet';

/** How a packet reached the receiver that reports it. */
export type HeardHow = 'direct' | 'relayed' | 'internet';

export interface HeardPath {
  readonly how: HeardHow;
  /** Digipeaters that certainly passed it on, in order. */
  readonly via: readonly string[];
  /** Aliases marked as used that no call sign stands for: somebody passed it on, the path does not say who. */
  readonly unnamedHops: number;
  /** Path elements not used yet. */
  readonly unused: readonly string[];
  /** On the internet side: the station that put it there. */
  readonly gate: string | null;
  /** The station whose transmission was received: source, or last digipeater; null when unnamed or by internet. */
  readonly heardFrom: string | null;
}

/**
 * Generic path elements (Protocol Reference 1.0.1 ch. 4, 1.1 addendum): WIDEn-N, WIDEn, TRACEn-N,
 * RELAY, and regional or state aliases of the form XXn-N.
 */
export const isAlias = (call: string): boolean => ALIAS.test(call);
const ALIAS = /^(?:(?:WIDE|TRACE)\d?(?:-\d+)?|RELAY|ECHO|GATE|[A-Z]{2}[1-7]-[1-7])$/;

/** `qAR` and the like: how the internet side got it. */
export const isQConstruct = (call: string): boolean => call.length === 3 && /^qA[A-Za-z]$/.test(call);
/** What stands in the path of a packet that was on the internet. */
export const isInternetMark = (call: string): boolean => call === 'TCPIP' || call === 'TCPXX';

/** How many more times a WIDEn-N element may be repeated; 0 when it is not one or is used up. */
export function remainingHops(call: string): number {
  const found = /^(?:WIDE|TRACE|[A-Z]{2})([1-7])-([1-7])$/.exec(call);
  return found ? Number(found[2]) : 0;
}

/** Explains the path of a packet: what it proves, and no more. */
export function explainPath(packet: Packet): HeardPath {
  const { path } = packet;
  const q = path.findIndex((hop) => isQConstruct(hop.call));
  const end = q < 0 ? path.length : q;
  let usedUpTo = 0;
  let byInternet = q >= 0;
  for (let i = 0; i < end; i++) {
    if (path[i]!.used) usedUpTo = i + 1;
    if (isInternetMark(path[i]!.call)) byInternet = true;
  }
  const via: string[] = [];
  let hops = 0;
  let unnamedHops = 0;
  // Whose transmission was received: after `DIGI,WIDE1*` the digipeater that put its call before the alias it used up.
  let heardFrom: string | null = packet.source;
  for (let i = 0; i < usedUpTo; i++) {
    const { call } = path[i]!;
    if (isInternetMark(call)) continue;
    hops++;
    if (!isAlias(call)) {
      via.push(call);
      heardFrom = call;
    } else if (heardFrom === null || hops === 1 || isAlias(path[i - 1]!.call)) {
      unnamedHops++;
      heardFrom = null;
    }
  }
  return {
    how: byInternet ? 'internet' : hops === 0 ? 'direct' : 'relayed',
    via,
    unnamedHops,
    unused: unusedElements(path, usedUpTo, end),
    gate: q < 0 ? null : (path[q + 1]?.call ?? null),
    heardFrom: byInternet ? null : heardFrom,
  };
}

const NONE: readonly string[] = [];

function unusedElements(path: readonly Hop[], from: number, to: number): readonly string[] {
  if (from === to) return NONE;
  return path.slice(from, to).map((hop) => hop.call);
}

/** The explanation in plain words. */
export function pathInWords(heard: HeardPath): string {
  const via = heard.via.join(', then ');
  const unnamed =
    heard.unnamedHops === 0
      ? ''
      : heard.unnamedHops === 1
        ? 'a digipeater that did not sign'
        : `${heard.unnamedHops} digipeaters that did not sign`;
  const by = [via, unnamed].filter(Boolean).join(' and ');
  if (heard.how === 'internet') {
    const gate = heard.gate ? `by internet from ${heard.gate}` : 'by internet';
    return by ? `${gate}, which had it via ${by}` : gate;
  }
  return heard.how === 'direct' ? 'heard direct' : `heard via ${by}`;
}

/** Orders copies: the smaller, the more directly it came – direct, over digipeaters, by internet; then by stations. */
export const directness = ({ how, via }: Pick<HeardPath, 'how' | 'via'>): number =>
  ({ direct: 0, relayed: 100, internet: 200 })[how] + Math.min(99, via.length);
