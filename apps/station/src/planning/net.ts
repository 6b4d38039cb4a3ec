import { addressesOf, carriageOf, ownStation, type NetView } from '@tombolo/contract';
import { listPeople } from '../people/people';
import { hopsOfNet, placesOf } from './hops';
import { hopsFor, ownRepeats } from './own-repeats';
import type { PlanningContext } from './context';

/** More stations than these are not told of: those of the list of people first, then those heard last. */
const MOST_STATIONS = 100;

/** Who hears whom directly by packet radio, and how surely, seen from us. */
export async function netOf({
  queries,
  settings,
  ownPosition,
  bearers,
  mapReach,
  ownEnd,
  nowMs,
}: PlanningContext): Promise<NetView> {
  const own = ownStation(settings);
  const at = new Date(nowMs).toISOString();
  if (own === null) return { at, own, ownEnd, stations: [], hops: [], silences: [] };
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
    at,
    own,
    ownEnd,
    stations: calls.map((call) => ({
      call,
      name: nameOf.get(call) ?? null,
      place: call === own ? ownPosition : (places.get(call)?.position ?? null),
      repeats: repeaters.has(call),
      // Who only repeats is no one that anybody writes to.
      wanted: call !== own && (nameOf.has(call) || !repeaters.has(call)),
    })),
    hops: hops.map(({ from, to, belief, rests }) => ({
      from,
      to,
      belief: { alpha: belief.alpha, beta: belief.beta },
      seen: rests.heard + rests.inferred + rests.heardBack + (rests.ours?.repeated ?? 0) > 0,
    })),
    silences: [...net.silences],
  };
}
