import { elementOf, mayHideHops } from './element';
import { innermostLayers } from './third-party';
import type { Hop, Packet } from './packet';

export * from './element';

/** How a packet reached the receiver that reports it. */
export type HeardHow = 'direct' | 'relayed' | 'internet';

/** One transmission that a path tells of. */
export interface PathHop {
  /** Null: somebody passed it on who did not sign. */
  readonly call: string | null;
  /**
   * False: the element stands before the last used one of a text, or could be a generic one, or a gateway tells it of what it heard.
   */
  readonly certain: boolean;
}

export interface HeardPath {
  readonly how: HeardHow;
  /** What passed it on, in order, with what is only likely. */
  readonly hops: readonly PathHop[];
  /** Stations that certainly passed it on, in order. */
  readonly via: readonly string[];
  /** Hops that certainly were and that no call stands for. */
  readonly unnamedHops: number;
  /** Path elements not used up yet. */
  readonly unused: readonly string[];
  /** On the internet side: the station that put it there. */
  readonly gate: string | null;
  /** The station whose transmission was received: source, or last digipeater; null when unnamed or by internet. */
  readonly heardFrom: string | null;
  /** Whether that is proven; an element counted down by one that does not sign would hide another. */
  readonly heardFromCertain: boolean;
  /**
   * The digipeater that certainly heard the source itself: it took its own call out of turn, and what stands in front of it – where
   * anybody before it would have left a mark – is untouched.
   */
  readonly firstHearer: string | null;
}

const NOBODY = () => false;
const NO_HOPS: readonly PathHop[] = [];
const NONE: readonly string[] = [];

/**
 * What the path of a transmission proves, and what it makes likely. Digipeaters take the first free element behind the last used one,
 * or their own call wherever it stands; some put their call in front of a generic element, some in its place, some only count it down.
 * `isStation` tells of words without the form of a call sign whether they were heard as a source. Wrappings are not looked into.
 */
export function explainPath(packet: Packet, isStation: (call: string) => boolean = NOBODY): HeardPath {
  const { path } = packet;
  let q = -1;
  let last = -1;
  let byInternet = false;
  let end = path.length;
  for (let i = 0; i < end; i++) {
    const element = elementOf(path[i]!.call);
    if (element.q) {
      q = end = i;
      byInternet = true;
    } else if (element.internet) byInternet = true;
    else if (path[i]!.used) last = i;
  }
  const hops: PathHop[] = last < 0 ? (NO_HOPS as PathHop[]) : [];
  const via: string[] = last < 0 ? (NONE as string[]) : [];
  let unnamedHops = 0;
  let heardFrom: string | null = packet.source;
  let certain = true;
  // Whether the element directly before may be the call that used up a generic one.
  let signed = false;
  for (let i = 0; i <= last; i++) {
    const { call, implied } = path[i]!;
    if (!isUsed(path[i]!)) {
      signed = false;
      continue;
    }
    const form = isStation === NOBODY || !isStation(call) ? elementOf(call).form : 'station';
    // Behind the mark of the internet side the path is what a gateway says.
    if (form !== 'generic') {
      certain = form === 'station' && !implied;
      hops.push({ call, certain: certain && q < 0 });
      if (certain && q < 0) via.push(call);
      heardFrom = call;
      signed = true;
      continue;
    }
    if (signed) certain = false;
    else {
      certain = !implied;
      hops.push({ call: null, certain: certain && q < 0 });
      if (certain && q < 0) unnamedHops++;
      heardFrom = null;
    }
    signed = false;
  }
  const next = last + 1 < end ? path[last + 1] : undefined;
  const hidden = next !== undefined && mayHideHops(next.call);
  return {
    how: byInternet ? 'internet' : last < 0 ? 'direct' : 'relayed',
    hops,
    via,
    unnamedHops,
    unused: unusedElements(packet, last + 1, end),
    firstHearer: last > 0 && q < 0 ? outOfTurn(packet, hops[0]) : null,
    gate: q < 0 ? null : (path[q + 1]?.call ?? null),
    heardFrom: byInternet ? null : heardFrom,
    // Whoever counted down in secret did not sign either.
    heardFromCertain: !byInternet && certain && (!hidden || heardFrom === null),
  };
}

function unusedElements({ path }: Packet, from: number, to: number): readonly string[] {
  if (from >= to) return NONE;
  const unused: string[] = [];
  for (let i = from; i < to; i++) if (!elementOf(path[i]!.call).internet) unused.push(path[i]!.call);
  return unused;
}

/** An element that somebody passed on: of what only looks used, what may still be counted down was not. */
export function isUsed({ call, used, implied }: Hop): boolean {
  if (!used) return false;
  const { internet, remaining } = elementOf(call);
  return !internet && !(implied && remaining > 0);
}

function outOfTurn({ path }: Packet, first: PathHop | undefined): string | null {
  const [front] = path;
  if (!front || front.used || mayHideHops(front.call)) return null;
  return first?.certain ? first.call : null;
}

/**
 * The whole road of a packet with its third-party wrappings (Protocol Reference 1.0.1, ch. 17): the inner road, then the gateway that
 * wrapped it, then the outer one. The inner road is what the gateway says. A wrapping alone does not prove internet: its path must
 * say so.
 */
export function explainRoad(packet: Packet, isStation: (call: string) => boolean = NOBODY): HeardPath {
  const layers = innermostLayers(packet);
  if (layers.length === 1) return explainPath(packet, isStation);
  let road: HeardPath | null = null;
  // From the inside out.
  for (let i = layers.length - 1; i >= 0; i--) {
    const layer = layers[i]!;
    const here = explainPath(layer, isStation);
    if (road === null) {
      road = toldBy(here, layers[i - 1]!.source);
      continue;
    }
    const wrapper = layer.source;
    const outer: HeardPath = i === 0 ? here : toldBy(here, layers[i - 1]!.source);
    const how: HeardHow = road.how === 'internet' || outer.how === 'internet' ? 'internet' : 'relayed';
    road = {
      how,
      hops: [...road.hops, { call: wrapper, certain: true }, ...outer.hops],
      via: [...road.via, wrapper, ...outer.via],
      unnamedHops: road.unnamedHops + outer.unnamedHops,
      unused: outer.unused,
      firstHearer: road.firstHearer,
      gate: outer.gate ?? road.gate ?? (road.how === 'internet' ? wrapper : null),
      heardFrom: outer.heardFrom,
      heardFromCertain: outer.heardFromCertain,
    };
  }
  return road!;
}

/** The road as the gateway that wrapped it tells it. */
function toldBy(path: HeardPath, wrapper: string): HeardPath {
  const { hops } = withoutWrapper(path, wrapper);
  return {
    ...path,
    hops: hops.map(({ call }) => ({ call, certain: false })),
    via: [],
    unnamedHops: 0,
    firstHearer: null,
  };
}

/** In a third-party header the gateway's own call stands last: it received, it did not repeat. */
function withoutWrapper(path: HeardPath, wrapper: string): HeardPath {
  if (path.hops.at(-1)?.call !== wrapper) return path;
  return { ...path, hops: path.hops.slice(0, -1), via: path.via.filter((call) => call !== wrapper) };
}

const DID_NOT_SIGN = 'a digipeater that did not sign';

/** Names in order, `D1D, then a digipeater that did not sign`; several unnamed ones in a row are counted. */
function hopsInWords(hops: readonly PathHop[]): string {
  const words: string[] = [];
  for (let i = 0; i < hops.length; i++) {
    const { call } = hops[i]!;
    if (call !== null) {
      words.push(call);
      continue;
    }
    let count = 1;
    while (hops[i + 1]?.call === null && hops[i + 1]) {
      count++;
      i++;
    }
    words.push(count === 1 ? DID_NOT_SIGN : `${count} digipeaters that did not sign`);
  }
  return words.join(', then ');
}

/** `via D2D (probably D1D as well)`, or only `probably via D1D`: what is proven, and behind it what is likely; null for no hop. */
function viaInWords(hops: readonly PathHop[]): string | null {
  if (hops.length === 0) return null;
  const proven = hopsInWords(hops.filter((hop) => hop.certain));
  const likely = hopsInWords(hops.filter((hop) => !hop.certain));
  if (proven === '') return `probably via ${likely}`;
  return likely === '' ? `via ${proven}` : `via ${proven} (probably ${likely} as well)`;
}

/** The explanation of one transmission in plain words. */
export function pathInWords(heard: HeardPath): string {
  const via = viaInWords(heard.hops);
  if (heard.how === 'internet') {
    const gate = heard.gate ? `by internet from ${heard.gate}` : 'by internet';
    return via ? `${gate}, which says that it had it ${via.replace(/^probably /, '')}` : gate;
  }
  if (via !== null) return `heard ${via}`;
  return heard.heardFromCertain ? 'heard direct' : 'heard direct, unless a digipeater left no mark';
}

/** The whole road in plain words: inner first, then who wrapped it, then how that was heard. */
export function packetRoadInWords(packet: Packet, isStation: (call: string) => boolean = NOBODY): string {
  const layers = innermostLayers(packet);
  let words = '';
  for (let i = layers.length - 1; i > 0; i--) {
    const wrapper = layers[i - 1]!.source;
    const inner = withoutWrapper(explainPath(layers[i]!, isStation), wrapper);
    const via = viaInWords(inner.hops);
    const told = via?.replace(/^probably /, '') ?? null;
    const road = inner.how === 'internet' ? `by internet${told ? ` and ${told}` : ''}` : (told ?? 'direct');
    words += `${words ? ', then ' : ''}${road} to ${wrapper}`;
  }
  const outer = pathInWords(explainPath(packet, isStation));
  return words === '' ? outer : `${words}, which passed it on; that was ${outer.replace(/^by/, 'heard by')}`;
}

/** Orders copies: the smaller, the more directly it came – direct, over digipeaters, by internet; then by hops. */
export const directness = ({
  how,
  via,
  hops,
}: Pick<HeardPath, 'how' | 'via'> & { readonly hops?: readonly PathHop[] }): number =>
  ({ direct: 0, relayed: 100, internet: 200 })[how] + Math.min(99, Math.max(via.length, hops?.length ?? 0));
