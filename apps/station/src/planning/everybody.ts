import { NO_WAY } from '@tombolo/core';
import { EVERYBODY_AT_ONCE, waysQuestion, type EverybodyView, type Person, type Reliance } from '@tombolo/contract';
import { listPeople } from '../people/people';
import { askedOnce } from './asked-once';
import { chanceInTime, type Candidate } from './candidate';
import type { PlanningContext } from './context';
import { candidatesTo, HORIZON_S } from './propose';
import { ownIn, plainlyWithout, reliedOn, type Relied } from './relied-on';
import { isSeen } from './rests';
import { thoughtOff } from './thought-off';

/** As long as many a text is (common practice, no source). */
const TEXT = 'x'.repeat(40);

/** The surest way to some of the list, in its order, with some things thought off, and who would lose all of theirs with one thing more. */
export async function everybodysWays(
  context: PlanningContext,
  off: readonly string[],
  from: number,
): Promise<EverybodyView> {
  const thought = thoughtOff({ ...context, queries: askedOnce(context.queries) }, off);
  const people = await listPeople(context.queries);
  const relies = new Map<string, Relied & { readonly needed: string[] }>();
  const told: EverybodyView['people'] = [];
  for (const person of people.slice(from, from + EVERYBODY_AT_ONCE)) {
    const { candidates, excluded } = await ofThem(thought, person, people);
    const [surest] = candidates;
    told.push({
      id: person.id,
      name: person.name,
      surest: surest
        ? { title: surest.title, chance: chanceInTime(surest, HORIZON_S), basis: isSeen(surest) ? 'evidence' : 'map' }
        : null,
      by: [...new Set(candidates.map((candidate) => carrierOf(context, candidate)))],
      why: surest ? null : (excluded[0]?.reason ?? null),
    });
    const relied: Relied[][] = [];
    for (const candidate of candidates) relied.push(await reliedOn(thought, candidate, person));
    for (const thing of relied.flat()) if (!relies.has(thing.id)) relies.set(thing.id, { ...thing, needed: [] });
    for (const { id } of inEach(relied)) {
      // Over others some may go as well: mostly the hops that are left say so, else it is reckoned without.
      const onlyHops = candidates.filter((_, n) => relied[n]!.some((thing) => thing.id === id && thing.isHop));
      const keeps = (one: Candidate) => plainlyWithout(one, id, ownIn(context, one.send.way.bearerId), person);
      if (onlyHops.some((one) => keeps(one) >= NO_WAY)) continue;
      const isLeft =
        onlyHops.length > 0 && (await ofThem(thoughtOff(thought, [id]), person, people)).candidates.length > 0;
      if (!isLeft) relies.get(id)!.needed.push(person.name);
    }
  }
  return {
    at: new Date(context.nowMs).toISOString(),
    people: told,
    of: people.length,
    relies: [...relies.values()].map(({ id, what, label, needed }): Reliance => ({ id, what, label, needed })),
  };
}

/** The crossings to somebody that have a chance worth the name, the surest first. */
async function ofThem(context: PlanningContext, person: Person, people: readonly Person[]) {
  const question = waysQuestion.parse({ to: person.name, text: TEXT });
  const { candidates, excluded } = await candidatesTo(context, question, person, people);
  const chances = new Map(candidates.map((candidate) => [candidate, chanceInTime(candidate, HORIZON_S)]));
  return {
    excluded,
    candidates: candidates
      .filter((candidate) => chances.get(candidate)! >= NO_WAY)
      .sort((a, b) => chances.get(b)! - chances.get(a)!),
  };
}

/** What people call that by which it goes: a service, somebody's hand, or a bearer. */
const carrierOf = ({ bearers }: PlanningContext, { send: { command, broughtBy, way } }: Candidate): string =>
  command?.service ?? broughtBy ?? bearers.find(({ id }) => id === way.bearerId)?.name ?? way.bearerId;

/** What stands in all of the lists: without anything else some way is left. */
const inEach = ([first = [], ...others]: readonly (readonly Relied[])[]): Relied[] =>
  first.filter(({ id }) => others.every((things) => things.some((thing) => thing.id === id)));
