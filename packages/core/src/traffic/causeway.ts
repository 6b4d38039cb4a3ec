import { directness, remainingHops, type HeardPath, type PathHop } from '../aprs/path';
import { hopsOfRecord, inOrder, type Evidence } from './evidence';
import type { Status } from './status';

/** State of one strip of sand, from planned to acknowledged from beyond it; left is what nothing was heard of until it ended. */
export const STRIP_STATES = ['planned', 'left', 'sent', 'heard', 'accepted', 'acknowledged', 'broken'] as const;
export type StripState = (typeof STRIP_STATES)[number];

export interface Stone {
  readonly label: string;
  /** False where a path element stands for a station not known yet, and for a digipeater that did not sign or is only likely. */
  readonly known: boolean;
}

export interface Strip {
  readonly state: StripState;
  /** The records that put it in this state. */
  readonly evidence: readonly string[];
  /** That it was crossed, or here, no record proves: an acknowledgement tells that a text arrived, not by which way. */
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
  /** For a leg that brought an item here: what carried it, as its most direct copy shows. */
  readonly arrivedBy?: readonly PathHop[];
  /** What repeats it are nodes of a mesh, which never sign. */
  readonly overMesh?: boolean;
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

const UNNAMED = 'a digipeater that did not sign';
const UNNAMED_NODE = 'a node of the mesh';

/**
 * The road of one leg as its evidence shows it: that of one record, which is cited – of several the longest, of equally long ones the
 * one heard first. What that record tells as still open is drawn as still to come.
 */
export function causewayOf(leg: LegRoad, evidence: readonly Evidence[], status: Pick<Status, 'outcome'>): Causeway {
  const records = inOrder(evidence).filter((record) => record.legId === leg.legId);
  const of = (kind: Evidence['kind']) => records.filter((record) => record.kind === kind);
  const idsOf = (found: readonly Evidence[]) => found.map((record) => record.id);
  const sent = of('sent');
  const relayed = of('relayed');
  const proofs = [...of('delivered'), ...of('answered')];
  const accepted = [...of('accepted'), ...of('handed on')];
  const shown = relayed.reduce<Evidence | null>(
    (best, record) => (hopsOfRecord(record).length > (best ? hopsOfRecord(best).length : 0) ? record : best),
    null,
  );
  const unnamed = leg.overMesh || shown?.road?.how === 'mesh' ? UNNAMED_NODE : UNNAMED;
  const road = leg.arrivedBy ?? (shown ? hopsOfRecord(shown) : []);

  const arrived = proofs.length > 0;
  const open =
    arrived || accepted.length > 0
      ? []
      : shown?.road
        ? plannedHops(shown.road.open)
        : plannedHops(leg.path).slice(road.length);
  const stones: Stone[] = [
    { label: leg.from, known: true },
    ...road.map(({ call, certain }) => ({ label: call ?? unnamed, known: call !== null && certain })),
    ...open.map((label) => ({ label, known: false })),
    { label: leg.to, known: true },
  ];
  /** Records that tell the same road up to here. */
  const carriersTo = (i: number) =>
    relayed.filter((record) => {
      const hops = hopsOfRecord(record);
      return road.slice(0, i + 1).every(({ call }, k) => hops[k] !== undefined && hops[k].call === call);
    });

  const ahead = status.outcome === null ? 'planned' : 'left';
  const strips = stones.slice(1).map((_, i): Strip => {
    const carriers = i < road.length ? carriersTo(i) : [];
    const relayProven = road[i]?.certain ?? false;
    // The packet that arrived shows its own road; where that is only likely, so is the strip.
    if (leg.arrivedBy) return { state: 'accepted', evidence: idsOf(proofs), inferred: i < road.length && !relayProven };
    if (arrived) return { state: 'acknowledged', evidence: idsOf([...carriers, ...proofs]), inferred: !relayProven };
    if (accepted.length > 0)
      return { state: 'accepted', evidence: idsOf([...carriers, ...accepted]), inferred: !relayProven };
    if (i < road.length) return { state: 'heard', evidence: idsOf(carriers), inferred: !relayProven };
    const transmitted = i === road.length && (sent.length > 0 || road.length > 0);
    if (i === road.length && (status.outcome === 'refused' || status.outcome === 'expired'))
      return {
        state: 'broken',
        evidence: idsOf([...of('refused'), ...of('expired'), ...of('overdue')]),
        inferred: false,
      };
    if (!transmitted) return { state: ahead, evidence: [], inferred: false };
    // Hearing a digipeater repeat proves that it transmitted toward the next stone.
    return { state: 'sent', evidence: idsOf(road.length > 0 ? carriersTo(road.length - 1) : sent), inferred: false };
  });
  if (leg.far && !leg.arrivedBy) {
    stones.push({ label: leg.far, known: true });
    const told = [...of('handed on'), ...of('answered')];
    const state = of('answered').length > 0 ? 'acknowledged' : of('handed on').length > 0 ? 'accepted' : ahead;
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

/** What carried an arrived packet here, by its most direct copy; a gateway counts as one. */
export function arrivalRoad(copies: readonly HeardPath[]): PathHop[] {
  const [best] = [...copies].sort((a, b) => directness(a) - directness(b));
  if (!best) return [];
  const { gate, hops } = best;
  return gate === null || hops.some(({ call }) => call === gate) ? [...hops] : [...hops, { call: gate, certain: true }];
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
  left: 'nothing heard of it',
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
