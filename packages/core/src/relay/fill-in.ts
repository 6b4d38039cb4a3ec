import { MAX_REPEATERS } from '../link/ax25';
import type { Hop, Packet } from '../aprs/packet';

/** The element that a fill-in digipeater serves, besides its own call (common practice, no source). */
const FILL_IN = 'WIDE1-1';

/**
 * The path of a packet after a fill-in repeated it: the first element that was not used is its own call or WIDE1-1, and its own call takes
 * that place, used (Protocol Reference 1.0.1, ch. 3; AX.25 v2.2, repeater addresses). Null for what it must leave alone: what is not for it,
 * what it sent itself, what went through it already.
 */
export function fillInPath({ source, path }: Pick<Packet, 'source' | 'path'>, own: string): Hop[] | null {
  if (source === own || path.length > MAX_REPEATERS) return null;
  // Behind the last one that was used: what was passed over in front stays passed over.
  const at = path.reduce((last, hop, i) => (hop.used ? i : last), -1) + 1;
  const next = path[at];
  if (!next || path.some((hop) => hop.used && hop.call === own)) return null;
  if (next.call !== own && next.call !== FILL_IN) return null;
  return path.map((hop, i) => (i === at ? { call: own, used: true } : { call: hop.call, used: hop.used }));
}

/** What somebody heard of whom: `from` was heard by `by`. */
export interface Edge {
  readonly from: string;
  readonly by: string;
}

export interface FillInAdvice {
  /** `helps`: somebody is heard by us alone; `loads`: a digipeater hears all of them; `unknown`: too few were heard to tell. */
  readonly verdict: 'helps' | 'loads' | 'unknown';
  /** Heard by us directly, and by no digipeater as far as is known. */
  readonly unheard: readonly string[];
  /** Heard by us directly, and by a digipeater. */
  readonly served: readonly string[];
}

/** So many stations have to be heard directly before their number says anything. */
const LEAST_STATIONS = 3;

/**
 * Whether repeating here would help anybody. `direct` are the stations heard without a digipeater, digipeaters left out; `edges` who heard whom,
 * as far as copies prove it. That no digipeater was heard passing somebody on is no proof that none hears them.
 */
export function fillInAdvice(direct: readonly string[], edges: readonly Edge[], own: string): FillInAdvice {
  const heardElsewhere = new Set(edges.filter(({ by }) => by !== own).map(({ from }) => from));
  const others = [...new Set(direct)].filter((call) => call !== own).sort();
  const served = others.filter((call) => heardElsewhere.has(call));
  const unheard = others.filter((call) => !heardElsewhere.has(call));
  return {
    verdict: others.length < LEAST_STATIONS ? 'unknown' : unheard.length > 0 ? 'helps' : 'loads',
    unheard,
    served,
  };
}
