import {
  beliefByMap,
  CARRIER_END,
  chanceByMap,
  likelyHearings,
  meanOf,
  MESH_END,
  netRadioOf,
  type Position,
  type RadioEnd,
} from '@tombolo/core';
import { carriageOf, type BearerView, type Carriage } from '@tombolo/contract';
import type { MeshNodeRow } from '../heard/mesh-nodes';
import { rowsOf } from '../store/database';
import type { PlanningContext } from './context';
import { hopsFrom, UNKNOWN, type Neighbourhood } from './hops';
import type { LinkRow } from './link-rows';
import type { Ends, MapMargin } from './map-reach';
import { ownFloods, withOwnFloods } from './own-floods';

const WITHIN_MS = 48 * 3_600_000;
const HOUR_MS = 3_600_000;

/** A node of the mesh, and where it is. */
export interface PlacedNode {
  readonly node: string;
  readonly tag: string;
  readonly name: string;
  readonly carrier: boolean;
  readonly place: Position | null;
}

export interface MeshNeighbourhood extends Neighbourhood {
  /** All but ours. */
  readonly nodes: readonly PlacedNode[];
  readonly ownEnd: RadioEnd;
}

export type MeshCarriage = Extract<Carriage, { readonly what: 'texts' }>;

/** The mesh that a bearer is on; null for another sort of bearer. */
export function meshOf(bearer: Pick<BearerView, 'config'>): MeshCarriage | null {
  const carriage = carriageOf(bearer.config);
  return carriage.what === 'texts' ? carriage : null;
}

type KnownNode = Omit<MeshNodeRow, 'bearer_id' | 'battery_percent' | 'snr_db'>;

/**
 * What each hop of a mesh is worth: what our node heard straight of another and what came over others is counted hour by hour, who likely
 * carried it is shared out, and what nobody heard is a guess from the map. Null while the mesh has no radio set.
 * @param about those who are to be among them whether they were heard of late or not: nodes that are called so, and one by its number; of how
 *   many nodes it is told at most, these first, then those that were heard straight most often: whoever makes up nodes pushes none of those out
 */
export async function meshHops(
  { queries, ownPosition, ownEndAt, groundReach, nowMs }: PlanningContext,
  bearer: Pick<BearerView, 'id' | 'state'>,
  { node: own, radio: meshRadio }: MeshCarriage,
  {
    tags,
    addressee,
    most,
  }: { readonly tags: readonly string[]; readonly addressee: string | null; readonly most: number },
): Promise<MeshNeighbourhood | null> {
  if (meshRadio === null) return null;
  const known = await rowsOf<KnownNode>(
    queries,
    `select m.node, m.tag, m.name, m.carrier, m.latitude, m.longitude, m.hops, m.last_at
     from mesh_node m left join heard_link l on l.by_call = $2 and l.from_call = m.node
     where m.bearer_id = $1 and m.node <> $2 and (m.node = $3 or m.tag = any($4) or m.last_at > $5)
     order by (m.node = $3) desc, (m.tag = any($4)) desc, coalesce(l.count, 0) desc, m.last_at desc limit $6`,
    [bearer.id, own, addressee ?? '', tags, new Date(nowMs - WITHIN_MS), most],
  );
  const heard = await rowsOf<LinkRow>(
    queries,
    `select from_call, by_call, count, first_count, hours, first_at, last_at from heard_link
     where by_call = $1 and from_call = any($2)`,
    [own, known.map(({ node }) => node)],
  );
  const nodes = known.map(({ node, tag, name, carrier, latitude, longitude }): PlacedNode => ({
    node,
    tag,
    name,
    carrier,
    place: latitude === null || longitude === null ? null : { latitude, longitude },
  }));
  const radio = netRadioOf(meshRadio);
  const ownEnd = ownEndAt(radio.frequencyMHz) ?? MESH_END;
  const placed: Placed[] = [
    ...(ownPosition ? [{ node: own, place: ownPosition, end: ownEnd }] : []),
    ...nodes.flatMap(({ node, place, carrier }) => (place ? [{ node, place, end: endOf(carrier) }] : [])),
  ];
  const margins = new Map(
    [...(await groundReach(endsOf(placed), radio))].map(([key, margin]) => [
      key,
      key.split('>').includes(own) ? margin : byTheirWord(margin),
    ]),
  );
  const chanceOf = (from: string, by: string): number => {
    const map = margins.get(from < by ? `${from}>${by}` : `${by}>${from}`);
    const db = from < by ? map?.marginDb : map?.marginBackDb;
    return db === undefined ? UNKNOWN.chance : meanOf(beliefByMap(chanceByMap(db)));
  };
  const rows = [...heard, ...carriedRows(known, heard, chanceOf, nowMs)];
  // Where neither a place nor a packet tells of a node, a guess stands for it.
  const told = new Set([...placed.map(({ node }) => node), ...rows.map(({ from_call }) => from_call)]);
  const all = [...new Set([...(addressee === null ? [] : [addressee]), ...nodes.map(({ node }) => node)])];
  const unknown = all.filter((node) => !told.has(node));
  const among = hopsFrom({
    own,
    nowMs,
    listeningSinceMs: bearer.state.link === 'up' ? Date.parse(bearer.state.since) : null,
    rows,
    // Every node of a mesh repeats what it hears.
    repeaters: nodes.map(({ node }) => node).filter((node) => !unknown.includes(node)),
    targets: unknown,
    addressee,
    places: new Map(placed.map(({ node, place }) => [node, { position: place, moves: false }])),
    margins,
  });
  const nearest = new Set(heard.flatMap((row) => (isDirect(row, nowMs) ? [row.from_call] : [])));
  return {
    ...among,
    hops: withOwnFloods(among.hops, own, nearest, await ownFloods(queries, bearer.id, nowMs)),
    nodes,
    ownEnd,
  };
}

/** Whether a node was heard straight of late. */
const isDirect = (row: LinkRow | undefined, nowMs: number): boolean =>
  row !== undefined && row.count > 0 && row.last_at.getTime() > nowMs - WITHIN_MS;

export const endOf = (carrier: boolean): RadioEnd => (carrier ? CARRIER_END : MESH_END);

interface Placed {
  readonly node: string;
  readonly place: Position;
  readonly end: RadioEnd;
}

const endsOf = (placed: readonly Placed[]): Ends[] =>
  placed.flatMap((from) =>
    placed.flatMap((to): Ends[] =>
      from.node < to.node
        ? [{ key: `${from.node}>${to.node}`, from, to, words: 'usual powers and antennas of nodes' }]
        : [],
    ),
  );

/**
 * Where both ends only say of themselves where they are, the map makes no link of them surer than half: whoever announces a place in the middle
 * would else carry for everybody.
 */
const byTheirWord = (margin: MapMargin): MapMargin => ({
  marginDb: Math.min(0, margin.marginDb),
  marginBackDb: Math.min(0, margin.marginBackDb),
  words: margin.words.replace(/\.$/, BY_THEIR_WORD),
  wordsBack: margin.wordsBack.replace(/\.$/, BY_THEIR_WORD),
});
const BY_THEIR_WORD = '. Both tell themselves where they are: half of a hundred at most.';

/** What came over others, as hearings of those who likely carried it: nobody signs a repeat. */
function carriedRows(
  known: readonly KnownNode[],
  heard: readonly LinkRow[],
  chanceOf: (from: string, by: string) => number,
  nowMs: number,
): LinkRow[] {
  const byNode = new Map(heard.map((row) => [row.from_call, row]));
  const lastAt = new Map(known.map(({ node, last_at }) => [node, last_at]));
  const over = known.flatMap(({ node, hops }) => {
    const row = byNode.get(node);
    const relayed = Object.entries(row?.hours ?? {}).flatMap(([hour, [, , missed]]) =>
      missed > 0 ? [{ atMs: Number(hour) * HOUR_MS, count: missed }] : [],
    );
    return isDirect(row, nowMs) ? [{ node, hops: 0, relayed }] : hops === null ? [] : [{ node, hops, relayed }];
  });
  return likelyHearings(over, chanceOf).map(({ from, by, hours }) => {
    const count = Math.max(1, Math.round(hours.reduce((sum, { inferred }) => sum + inferred, 0)));
    return {
      from_call: from,
      by_call: by,
      count,
      first_count: count,
      hours: Object.fromEntries(hours.map(({ atMs, inferred }) => [String(atMs / HOUR_MS), [0, inferred, 0] as const])),
      first_at: new Date(Math.min(...hours.map(({ atMs }) => atMs))),
      last_at: lastAt.get(from)!,
    };
  });
}
