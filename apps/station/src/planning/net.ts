import { addressesOf, carriageOf, ownStation, type NetView } from '@tombolo/contract';
import { CARRIER_END, USUAL_REPEATS, REPEATER_END, USUAL_END } from '@tombolo/core';
import { listPeople } from '../people/people';
import { ProblemError } from '../problem-error';
import { hopsOfNet, placesOf, type Hop } from './hops';
import { hopsFor, ownRepeats } from './own-repeats';
import type { PlanningContext } from './context';
import { endOf, meshHops, meshOf } from './mesh-hops';

/** More stations than these are not told of: those of the list of people first, then those heard last. */
const MOST_STATIONS = 100;
/** Nodes, all of which repeat. */
const MOST_NODES = 30;

/** Who hears whom directly, and how surely, seen from us: by packet radio, or on the mesh of a bearer. */
export const netOf = (context: PlanningContext, bearerId: string | null): Promise<NetView> =>
  bearerId === null ? packetNet(context) : meshNet(context, bearerId);

const hopsTold = (hops: readonly Hop[]): NetView['hops'] =>
  hops.map(({ from, to, belief, rests }) => ({
    from,
    to,
    belief: { alpha: belief.alpha, beta: belief.beta },
    seen: rests.heard + rests.inferred + rests.heardBack + (rests.ours?.repeated ?? 0) > 0,
  }));

async function packetNet({
  queries,
  settings,
  ownPosition,
  bearers,
  mapReach,
  ownEnd,
  nowMs,
}: PlanningContext): Promise<NetView> {
  const own = ownStation(settings);
  const about = {
    at: new Date(nowMs).toISOString(),
    own,
    bearerId: null,
    mesh: null,
    mostRepeats: USUAL_REPEATS,
    addedEnd: REPEATER_END,
  };
  if (own === null) return { ...about, stations: [], hops: [], silences: [] };
  const people = await listPeople(queries);
  const nameOf = new Map(people.flatMap((person) => addressesOf(person, 'call').map((call) => [call, person.name])));
  const packets = bearers.filter(({ enabled, config }) => enabled && carriageOf(config).what === 'packets');
  const since = packets.flatMap(({ state }) => (state.link === 'up' ? [Date.parse(state.since)] : []));
  const net = await hopsOfNet(
    queries,
    { own, ownPosition, nowMs, mapReach, listeningSinceMs: since.length === 0 ? null : Math.min(...since) },
    [...nameOf.keys()],
    MOST_STATIONS,
  );
  const repeats = packets[0] ? await ownRepeats(queries, packets[0].id, nowMs) : null;
  // Our first hop as most of our packets asked for it.
  const [usual] = repeats ? [...repeats.sent].sort(([, a], [, b]) => b.count - a.count) : [];
  const hops = repeats && usual ? hopsFor(net, own, usual[0], repeats) : net.hops;
  const calls = [...new Set([own, ...net.targets, ...net.repeaters])];
  const places = await placesOf(queries, calls);
  const repeaters = new Set(net.repeaters);
  return {
    ...about,
    stations: calls.map((call) => ({
      call,
      label: call,
      name: nameOf.get(call) ?? null,
      place: call === own ? ownPosition : (places.get(call)?.position ?? null),
      repeats: repeaters.has(call),
      // Who only repeats is no one that anybody writes to.
      wanted: call !== own && (nameOf.has(call) || !repeaters.has(call)),
      end: call === own ? ownEnd : USUAL_END,
    })),
    hops: hopsTold(hops),
    silences: [...net.silences],
  };
}

async function meshNet(context: PlanningContext, bearerId: string): Promise<NetView> {
  const bearer = context.bearers.find(({ id }) => id === bearerId);
  const mesh = bearer ? meshOf(bearer) : null;
  if (!bearer || !mesh)
    throw new ProblemError(404, 'no-such-mesh', 'That mesh does not exist', `${bearerId} is no bearer of a mesh.`);
  const people = await listPeople(context.queries);
  const nameOf = new Map(people.flatMap((person) => addressesOf(person, 'node').map((tag) => [tag, person.name])));
  const about = {
    at: new Date(context.nowMs).toISOString(),
    own: mesh.node,
    bearerId,
    mesh: mesh.radio,
    mostRepeats: mesh.hopLimit,
    addedEnd: CARRIER_END,
  };
  const net = await meshHops(context, bearer, mesh, {
    tags: [...nameOf.keys()],
    addressee: null,
    most: MOST_NODES,
  });
  if (net === null) return { ...about, stations: [], hops: [], silences: [] };
  // Of two that call themselves the same each is called by its number.
  const labelOf = ({ node, tag }: { node: string; tag: string }) =>
    net.nodes.some((other) => other.node !== node && other.tag === tag) || tag === mesh.tag ? node : tag;
  const ours = { call: mesh.node, label: mesh.tag, name: null, place: context.ownPosition, wanted: false };
  return {
    ...about,
    stations: [
      { ...ours, repeats: true, end: net.ownEnd },
      ...net.nodes.map(({ node, tag, name, carrier, place }) => ({
        call: node,
        label: labelOf({ node, tag }),
        name: nameOf.get(tag) ?? (name === '' ? null : name),
        place,
        repeats: true,
        wanted: true,
        end: endOf(carrier),
      })),
    ],
    hops: hopsTold(net.hops),
    silences: [...net.silences],
  };
}
