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
export const isAlias = (call: string): boolean =>
  /^(?:WIDE|TRACE)\d?(?:-\d+)?$/.test(call) || /^(?:RELAY|ECHO|GATE)$/.test(call) || /^[A-Z]{2}[1-7]-[1-7]$/.test(call);

const isQConstruct = (call: string): boolean => /^qA[A-Za-z]$/.test(call);
const isInternetMark = (call: string): boolean => call === 'TCPIP' || call === 'TCPXX';

/** How many more times a WIDEn-N element may be repeated; 0 when it is not one or is used up. */
export function remainingHops(call: string): number {
  const found = /^(?:WIDE|TRACE|[A-Z]{2})([1-7])-([1-7])$/.exec(call);
  return found ? Number(found[2]) : 0;
}

/** Explains the path of a packet: what it proves, and no more. */
export function explainPath(packet: Packet): HeardPath {
  const q = packet.path.findIndex((hop) => isQConstruct(hop.call));
  const radioPath = q < 0 ? packet.path : packet.path.slice(0, q);
  const gate = q < 0 ? null : (packet.path[q + 1]?.call ?? null);
  const lastUsed = radioPath.reduce((last, hop, i) => (hop.used ? i : last), -1);
  const used = radioPath.slice(0, lastUsed + 1).filter((hop) => !isInternetMark(hop.call));
  const via = used.filter((hop) => !isAlias(hop.call)).map((hop) => hop.call);
  const byInternet = q >= 0 || radioPath.some((hop) => isInternetMark(hop.call));
  const trailing = used[used.length - 1];
  const unnamedHops = countUnnamed(used);
  let heardFrom: string | null = null;
  if (!byInternet) {
    if (used.length === 0) heardFrom = packet.source;
    else if (trailing && !isAlias(trailing.call)) heardFrom = trailing.call;
    // `DIGI,WIDE1*`: the digipeater put its call in front of the alias that it used up.
    else if (used.length > 1 && !isAlias(used[used.length - 2]!.call)) heardFrom = used[used.length - 2]!.call;
  }
  return {
    how: byInternet ? 'internet' : used.length === 0 ? 'direct' : 'relayed',
    via,
    unnamedHops,
    unused: radioPath.slice(lastUsed + 1).map((hop) => hop.call),
    gate,
    heardFrom,
  };
}

/** Used aliases that are not preceded by the call of a digipeater. */
function countUnnamed(used: readonly Hop[]): number {
  return used.filter((hop, i) => isAlias(hop.call) && (i === 0 || isAlias(used[i - 1]!.call))).length;
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
export const directness = ({ how, via }: HeardPath): number =>
  ({ direct: 0, relayed: 100, internet: 200 })[how] + Math.min(99, via.length);
