import { across, AT_ONCE, chanceBy, dominates, expectedS, type Arrival } from './arrival';

/** One transmission from a holder to the next, who takes over; or somebody who carries it. */
export interface Crossing {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  /** From when it begins until the next one holds it, retries included. */
  readonly arrival: Arrival;
  /** When it can begin, for something that is there at a time; null for never. First in, first out. Absent: at any time. */
  readonly opensAt?: (atS: number) => number | null;
  /** Expected seconds of shared channels, once it is begun. */
  readonly airS: number;
  /** What it can prove to us: a higher number is the stronger proof. */
  readonly proof: number;
  /** Hands that take part in it beside the two ends. */
  readonly hands: number;
}

/** A sequence of crossings and what it comes to. */
export interface FoundWay {
  readonly crossings: readonly Crossing[];
  readonly arrival: Arrival;
  /** Of all its crossings, should every one be begun: a sum, so that a surer beginning is not charged for what it makes possible. */
  readonly airS: number;
  readonly proof: number;
  readonly hands: number;
}

export interface SearchBounds {
  /** Seconds from now; what arrives later does not count. */
  readonly deadlineS: number;
  readonly mostCrossings?: number;
  /** Ways kept for each holder. */
  readonly mostLabels?: number;
  /** Ways that differ by less are one. */
  readonly slackChance?: number;
  readonly slackS?: number;
}

export interface Found {
  /** No one of them is as good as another in everything; the surest first. */
  readonly ways: readonly FoundWay[];
  /** True when a way was dropped for want of room, so that a better one may be missing. */
  readonly cut: boolean;
}

interface Label extends FoundWay {
  readonly holders: readonly string[];
}

/**
 * The ways from one holder to another of which none is beaten in everything: chance and time by dominance of whole distributions, air time,
 * proof, hands. Labels are corrected until nothing changes (after Martins 1984), and dropped where not even the best completion could
 * matter: bounds from a search backwards. A way that was left out is within the slack, once for each crossing, of one that is given, unless
 * `cut` says otherwise; distributions are told apart by sixteenths.
 */
export function findWays(crossings: readonly Crossing[], from: string, to: string, bounds: SearchBounds): Found {
  const { deadlineS, mostCrossings = 5, mostLabels = 12, slackChance = 0.01, slackS = 5 } = bounds;
  const outgoing = new Map<string, Crossing[]>();
  for (const crossing of crossings) {
    if (crossing.arrival.atS.length === 0) continue;
    const there = outgoing.get(crossing.from);
    if (there) there.push(crossing);
    else outgoing.set(crossing.from, [crossing]);
  }
  const ahead = lowerBounds(crossings, to, mostCrossings);
  const kept = new Map<string, Label[]>();
  let cut = false;
  const begin: Label = { crossings: [], arrival: AT_ONCE, airS: 0, proof: Infinity, hands: 0, holders: [from] };
  if (from === to) return { ways: [begin], cut: false };
  // The nearest first: what is found early prunes the rest.
  let edge: Label[] = [begin];
  while (edge.length > 0) {
    const next: Label[] = [];
    for (const label of edge) {
      const here = label.holders.at(-1)!;
      // It was beaten after it was put in line.
      if (label !== begin && !kept.get(here)?.includes(label)) continue;
      for (const crossing of outgoing.get(here) ?? []) {
        if (label.holders.includes(crossing.to)) continue;
        const rest = ahead.get(crossing.to);
        if (!rest || label.crossings.length + 1 + rest.crossings > mostCrossings) continue;
        const grown = grow(label, crossing, deadlineS);
        if (!grown) continue;
        const ideal = bestCase(grown, rest, deadlineS);
        if (!ideal || kept.get(to)?.some((other) => beats(other, ideal, slackChance, slackS, true))) continue;
        const held = keep(kept, crossing.to, grown, { mostLabels, slackChance, slackS, last: crossing.to === to });
        cut ||= held.cut;
        if (held.kept && crossing.to !== to) next.push(grown);
      }
    }
    edge = next;
  }
  const ways = [...(kept.get(to) ?? [])]
    .sort((a, b) => b.arrival.chance - a.arrival.chance || expectedS(a.arrival)! - expectedS(b.arrival)!)
    .map(({ crossings: over, arrival, airS, proof, hands }) => ({ crossings: over, arrival, airS, proof, hands }));
  return { ways, cut };
}

/** A label over one more crossing, without what comes after the deadline; null when nothing does in time. */
function grow(label: Label, crossing: Crossing, deadlineS: number): Label | null {
  const arrival = inTime(across(label.arrival, crossing.arrival, crossing.opensAt), deadlineS);
  if (arrival.atS.length === 0) return null;
  return {
    crossings: [...label.crossings, crossing],
    arrival,
    airS: label.airS + crossing.airS,
    proof: crossing.proof,
    hands: label.hands + crossing.hands + (label.crossings.length > 0 ? 1 : 0),
    holders: [...label.holders, crossing.to],
  };
}

/** Sums of times differ by rounding: what is due at the deadline is in time. */
const ROUNDING_S = 1e-6;

const inTime = (arrival: Arrival, deadlineS: number): Arrival => {
  const atS = arrival.atS.filter((at) => at <= deadlineS + ROUNDING_S);
  return atS.length === arrival.atS.length ? arrival : { chance: chanceBy(arrival, deadlineS + ROUNDING_S), atS };
};

interface Ahead {
  readonly crossings: number;
  /** Least seconds and greatest chance of any way on. */
  readonly leastS: number;
  readonly mostChance: number;
  readonly bestProof: number;
}

/** From every holder the best that any way on could be, each figure for itself: so many rounds as crossings are allowed. */
function lowerBounds(crossings: readonly Crossing[], to: string, mostCrossings: number): Map<string, Ahead> {
  const incoming = new Map<string, Crossing[]>();
  let bestProof = -Infinity;
  for (const crossing of crossings) {
    if (crossing.arrival.atS.length === 0) continue;
    if (crossing.to === to) bestProof = Math.max(bestProof, crossing.proof);
    const there = incoming.get(crossing.to);
    if (there) there.push(crossing);
    else incoming.set(crossing.to, [crossing]);
  }
  const best = new Map<string, Ahead>([[to, { crossings: 0, leastS: 0, mostChance: 1, bestProof: -Infinity }]]);
  let edge = new Set([to]);
  for (let round = 1; round <= mostCrossings && edge.size > 0; round++) {
    const next = new Set<string>();
    for (const holder of edge) {
      const here = best.get(holder)!;
      for (const { from, arrival } of incoming.get(holder) ?? []) {
        if (from === to) continue;
        const before = best.get(from);
        const leastS = here.leastS + arrival.atS[0]!;
        const mostChance = here.mostChance * arrival.chance;
        if (before && leastS >= before.leastS && mostChance <= before.mostChance) continue;
        best.set(from, {
          crossings: before?.crossings ?? round,
          leastS: Math.min(leastS, before?.leastS ?? Infinity),
          mostChance: Math.max(mostChance, before?.mostChance ?? 0),
          bestProof,
        });
        next.add(from);
      }
    }
    edge = next;
  }
  return best;
}

/** What a label could come to at the very best; null when that is not in time. */
function bestCase(label: Label, rest: Ahead, deadlineS: number): FoundWay | null {
  const { chance, atS } = label.arrival;
  const arrival = inTime({ chance: chance * rest.mostChance, atS: atS.map((at) => at + rest.leastS) }, deadlineS);
  return arrival.atS.length === 0 ? null : { ...label, arrival, proof: Math.max(rest.bestProof, label.proof) };
}

/** Whether one way is at least as good as another in everything, within the slack. */
function beats(a: FoundWay, b: FoundWay, slackChance: number, slackS: number, last: boolean): boolean {
  return (
    a.airS <= b.airS + 1e-9 &&
    a.hands <= b.hands &&
    // Before the last crossing the proof is still open, and so is how many crossings are left.
    (last ? a.proof >= b.proof : a.crossings.length <= b.crossings.length) &&
    dominates(a.arrival, b.arrival, slackChance, slackS)
  );
}

function keep(
  kept: Map<string, Label[]>,
  holder: string,
  label: Label,
  {
    mostLabels,
    slackChance,
    slackS,
    last,
  }: Record<'mostLabels' | 'slackChance' | 'slackS', number> & { last: boolean },
): { readonly kept: boolean; readonly cut: boolean } {
  const there = kept.get(holder) ?? [];
  if (there.some((other) => beats(other, label, slackChance, slackS, last))) return { kept: false, cut: false };
  const left = [...there.filter((other) => !beats(label, other, 0, 0, last)), label];
  const cut = left.length > mostLabels;
  if (cut) {
    // The least sure one goes.
    left.sort((a, b) => b.arrival.chance - a.arrival.chance);
    left.pop();
  }
  kept.set(holder, left);
  return { kept: left.includes(label), cut };
}
