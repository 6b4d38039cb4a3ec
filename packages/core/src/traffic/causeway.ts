import { directness, remainingHops, type HeardPath } from '../aprs/path';
import { inOrder, type Evidence } from './evidence';
import type { Status } from './status';

/** State of one strip of sand, from planned to acknowledged from beyond it. */
export const STRIP_STATES = ['planned', 'sent', 'heard', 'accepted', 'acknowledged', 'broken'] as const;
export type StripState = (typeof STRIP_STATES)[number];

export interface Stone {
  readonly label: string;
  /** False while only a generic path element stands for a station that is not known yet. */
  readonly known: boolean;
}

export interface Strip {
  readonly state: StripState;
  /** The records that put it in this state. */
  readonly evidence: readonly string[];
  /** The acknowledgement proves that it arrived, not by which way: this strip is inferred. */
  readonly inferred: boolean;
}

/** `stones.length === strips.length + 1`. */
export interface Causeway {
  readonly stones: readonly Stone[];
  readonly strips: readonly Strip[];
}

export interface LegRoad {
  readonly legId: string;
  readonly from: string;
  readonly to: string;
  /** Path elements as asked for, e.g. WIDE1-1, WIDE2-1. */
  readonly path: readonly string[];
  /** For a leg that brought an item here: the stations that carried it, as its most direct copy shows. */
  readonly arrivedBy?: readonly string[];
  /** Whom a service behind `to` reaches, e.g. a phone: one more strip, whose proof is the service's own word. */
  readonly far?: string | null;
}

/** One generic name for each hop a path allows: WIDE2-2 stands for two. */
function plannedHops(path: readonly string[]): string[] {
  return path.flatMap((element) => {
    const hops = remainingHops(element);
    return hops <= 1 ? [element] : Array.from({ length: hops }, (_, i) => `${element} (${i + 1})`);
  });
}

/**
 * The road of one leg as its evidence shows it. Of several proven roads the longest one is drawn, of
 * equally long ones the one heard first.
 */
export function causewayOf(leg: LegRoad, evidence: readonly Evidence[], status: Pick<Status, 'outcome'>): Causeway {
  const records = inOrder(evidence).filter((record) => record.legId === leg.legId);
  const of = (kind: Evidence['kind']) => records.filter((record) => record.kind === kind);
  const idsOf = (found: readonly Evidence[]) => found.map((record) => record.id);
  const sent = of('sent');
  const relayed = of('relayed');
  const proofs = [...of('delivered'), ...of('answered')];
  const accepted = [...of('accepted'), ...of('handed on')];
  const road =
    leg.arrivedBy ?? relayed.reduce<readonly string[]>((best, { via }) => (via.length > best.length ? via : best), []);

  const arrived = proofs.length > 0;
  const planned = plannedHops(leg.path);
  const open = arrived || accepted.length > 0 ? [] : planned.slice(road.length);
  const stones: Stone[] = [
    { label: leg.from, known: true },
    ...road.map((label) => ({ label, known: true })),
    ...open.map((label) => ({ label, known: false })),
    { label: leg.to, known: true },
  ];

  const strips = stones.slice(1).map((_, i): Strip => {
    const carriers = relayed.filter(({ via }) => via[i] !== undefined && via[i] === road[i]);
    const relayProven = i < road.length;
    // The packet that arrived shows its own road: nothing has to be inferred.
    if (leg.arrivedBy) return { state: 'accepted', evidence: idsOf(proofs), inferred: false };
    if (arrived) return { state: 'acknowledged', evidence: idsOf([...carriers, ...proofs]), inferred: !relayProven };
    if (accepted.length > 0)
      return { state: 'accepted', evidence: idsOf([...carriers, ...accepted]), inferred: !relayProven };
    if (relayProven) return { state: 'heard', evidence: idsOf(carriers), inferred: false };
    const transmitted = i === road.length && (sent.length > 0 || road.length > 0);
    if (i === road.length && (status.outcome === 'refused' || status.outcome === 'expired'))
      return { state: 'broken', evidence: idsOf([...of('refused'), ...of('expired')]), inferred: false };
    if (!transmitted) return { state: 'planned', evidence: [], inferred: false };
    // Hearing a digipeater repeat proves that it transmitted toward the next stone.
    return { state: 'sent', evidence: idsOf(road.length > 0 ? relayed : sent), inferred: false };
  });
  if (leg.far && !leg.arrivedBy) {
    stones.push({ label: leg.far, known: true });
    const told = [...of('handed on'), ...of('answered')];
    const state = of('answered').length > 0 ? 'acknowledged' : of('handed on').length > 0 ? 'accepted' : 'planned';
    strips.push({ state, evidence: idsOf(told), inferred: false });
  }
  return { stones, strips };
}

/** Roads one after another as one: where one ends the next begins. */
export function joinRoads(roads: readonly Causeway[]): Causeway | null {
  const [first, ...rest] = roads;
  if (!first) return null;
  return rest.reduce(
    (joined, road) => ({
      stones: [...joined.stones, ...road.stones.slice(1)],
      strips: [...joined.strips, ...road.strips],
    }),
    first,
  );
}

/** The stations that carried an arrived packet here, by its most direct copy; a gateway counts as one. */
export function arrivalRoad(copies: readonly HeardPath[]): string[] {
  const [best] = [...copies].sort((a, b) => directness(a) - directness(b));
  if (!best) return [];
  return best.gate === null ? [...best.via] : [...best.via, best.gate];
}

/** The leg worth drawing: the one that got furthest, of equals the latest. */
export function bestLeg<T extends LegRoad>(legs: readonly T[], evidence: readonly Evidence[]): T | undefined {
  const reach = (leg: T): number => {
    const kinds = new Set(evidence.filter((record) => record.legId === leg.legId).map((record) => record.kind));
    if (kinds.has('answered') || kinds.has('delivered')) return 3;
    if (kinds.has('accepted') || kinds.has('handed on')) return 2;
    return kinds.has('relayed') ? 1 : 0;
  };
  let best: T | undefined;
  for (const leg of legs) if (!best || reach(leg) >= reach(best)) best = leg;
  return best;
}

const STRIP_WORDS: Record<StripState, string> = {
  planned: 'planned',
  sent: 'sent',
  heard: 'heard repeated',
  accepted: 'accepted',
  acknowledged: 'acknowledged from beyond',
  broken: 'no proof, given up',
};

/** The picture in words, for screen readers and print. */
export function causewayInWords({ stones, strips }: Causeway): string {
  return strips
    .map((strip, i) => `${stones[i]!.label} to ${stones[i + 1]!.label}: ${STRIP_WORDS[strip.state]}`)
    .join('; ');
}
