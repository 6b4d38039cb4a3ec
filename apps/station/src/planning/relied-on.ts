import { carriageOf, INTERNET, ownStation, type Person, type Reliance } from '@tombolo/contract';
import { gatewayOf } from './addresses';
import { boardOf } from './beyond-board';
import type { Candidate } from './candidate';
import type { PlanningContext } from './context';
import { carriedBy } from './thought-off';

export interface Relied extends Pick<Reliance, 'id' | 'what' | 'label'> {
  /** Whether it only may carry it, beside others. */
  readonly isHop: boolean;
}

/** What we are called in the hops of a bearer. */
export function ownIn({ bearers, settings }: PlanningContext, bearerId: string): string {
  const bearer = bearers.find(({ id }) => id === bearerId);
  const carriage = bearer && carriageOf(bearer.config);
  return carriage?.what === 'texts' ? carriage.tag : (ownStation(settings) ?? '');
}

/** All that a way makes use of, but for what is the addressee's own, without which nobody is reached. */
export async function reliedOn(
  context: PlanningContext,
  { rests, send: { way, command, to, broughtBy } }: Pick<Candidate, 'rests' | 'send'>,
  person: Pick<Person, 'addresses'>,
): Promise<Relied[]> {
  const bearer = context.bearers.find(({ id }) => id === way.bearerId);
  if (!bearer) return [];
  const carriage = carriageOf(bearer.config);
  const home = carriage.what === 'messages' ? boardOf(to) : null;
  const whole = [
    ...carriedBy(bearer),
    ...(home === null ? [] : [home]),
    // The set of whoever brings it.
    ...(broughtBy !== null && carriage.what === 'packets' ? [to] : []),
    ...(command ? [INTERNET, command.service, await gatewayOf(context, command.service)] : []),
  ];
  const hops = rests.flatMap((hop) => [hop.from, hop.to]);
  const theirs = new Set([
    ...person.addresses.map(({ address }) => address),
    ...(command || broughtBy !== null ? [] : [to]),
    ownIn(context, way.bearerId),
  ]);
  const toldOf = (id: string): Relied => {
    const isHop = !whole.includes(id);
    const named = context.bearers.find((one) => one.id === id);
    if (named) return { id, what: 'bearer', label: named.name, isHop };
    if (id === INTERNET) return { id, what: 'internet', label: 'The internet behind gateways', isHop };
    if (id === command?.service) return { id, what: 'service', label: id, isHop };
    return { id, what: carriage.what === 'texts' ? 'node' : 'station', label: id, isHop };
  };
  return [...new Set([...whole, ...hops])].filter((id) => !theirs.has(id)).map(toldOf);
}

/** So many hops a chance is followed: more of them leave little of it. */
const MOST_FOLLOWED = 3;

/**
 * Of a way by radio what it plainly keeps without one station: the chance of one transmission over the surest chain of hops that is left, so
 * that nothing has to be reckoned anew where that is enough; 0 where it says nothing.
 */
export function plainlyWithout(
  { rests, works, holder, send }: Pick<Candidate, 'rests' | 'works' | 'holder' | 'send'>,
  id: string,
  own: string,
  { addresses }: Pick<Person, 'addresses'>,
): number {
  const links = rests.filter(({ from, to }) => from !== id && to !== id);
  const best = new Map([[own, 1]]);
  for (let hop = 0; hop < MOST_FOLLOWED; hop++)
    for (const [to, chance] of links.map((link) => [link.to, (best.get(link.from) ?? 0) * link.chance.chance] as const))
      best.set(to, Math.max(best.get(to) ?? 0, chance));
  // In what a mesh rests on, nodes are called as people call them.
  const far = [send.to, ...addresses.map(({ address }) => address)];
  const there = Math.max(...far.map((address) => best.get(address) ?? 0));
  return there * (works ?? 1) * (holder.beyond?.arrival.chance ?? 1);
}
