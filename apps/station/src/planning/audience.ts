import { addressesOf, ownStation, type AudienceView } from '@tombolo/contract';
import { audienceOf, enoughOf, PATH_SCHOOLS, seeded } from '@tombolo/core';
import { listPeople } from '../people/people';
import type { PlanningContext } from './context';
import { hopsOfNet } from './hops';
import { hopsFor, ownRepeats } from './own-repeats';

/** Of more it is not told: those of the list of people first, then those heard last. */
const MOST_LISTENERS = 60;
/** The same question gives the same answer. */
const SEED = 40_961;

/** Who would hear one transmission of ours to everybody by one bearer, over each of the usual paths. */
export async function audienceBy(context: PlanningContext, bearerId: string): Promise<AudienceView> {
  const { queries, settings, ownPosition, bearers, mapReach, nowMs } = context;
  const own = ownStation(settings);
  const at = new Date(nowMs).toISOString();
  if (own === null) return { at, stations: 0, paths: [], enough: null };
  const people = await listPeople(queries);
  const called = people.flatMap((person) => addressesOf(person, 'call'));
  const state = bearers.find(({ id }) => id === bearerId)?.state;
  const net = await hopsOfNet(
    queries,
    { own, ownPosition, nowMs, mapReach, listeningSinceMs: state?.link === 'up' ? Date.parse(state.since) : null },
    called,
    MOST_LISTENERS,
  );
  // Who only repeats reads nothing.
  const listeners = net.targets.filter((call) => called.includes(call) || !net.repeaters.includes(call));
  const repeats = await ownRepeats(queries, bearerId, nowMs);
  const audiences = PATH_SCHOOLS.map(({ path }) =>
    audienceOf({ path, hops: hopsFor(net, own, path[0], repeats) }, own, net.repeaters, listeners, seeded(SEED)),
  );
  return {
    at,
    stations: listeners.length,
    paths: audiences.map(({ path, expected }) => ({ path: [...path], expected })),
    enough: enoughOf(audiences)?.path.slice() ?? null,
  };
}
