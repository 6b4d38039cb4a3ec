import { findWays, type FoundWay } from '@tombolo/core';
import { personKnownAs, type Person, type WaysQuestion, type WaysView } from '@tombolo/contract';
import { listPeople } from '../people/people';
import { askFirst } from './ask-first';
import { byHand } from './by-hand';
import { apart, planned, sharingNothing } from './apart';
import { chanceInTime, crossingsOf, FAR, US, type Candidate, type Excluded } from './candidate';
import type { PlanningContext } from './context';
import { gather, type Gathered, type Only } from './gather';

/** Where no deadline is given: what comes later than a day does not help. */
export const HORIZON_S = 24 * 3600;
/** More are not told apart. */
const MOST_WAYS = 5;

const nobody = (title: string): Excluded => ({
  title,
  reason: 'Nobody of that name is on the list of people, and it is no address that a bearer of yours reaches.',
  remedy:
    'Write a call, the number of a node, a mail address, somebody at a board (QT1NC@QT1BB-4), or add them under Tools, People.',
});

const noneFor = ({ name, addresses }: Person): Excluded => ({
  title: name,
  reason: `Nothing of yours reaches what is noted of ${name}: ${addresses.map(({ address }) => address).join(', ')}.`,
  remedy: 'Note another address under Tools, People, or add under Bearers what reaches one of these.',
});

/** What the crossings over one bearer to one address come to. */
export async function crossingsTo(
  context: PlanningContext,
  question: WaysQuestion,
  only: Only,
): Promise<readonly Candidate[]> {
  const gathered: Gathered = { candidates: [], excluded: [] };
  for (const bearer of context.bearers)
    if (bearer.id === only.bearerId) await gather(context, question, null, bearer, gathered, only);
  return gathered.candidates;
}

/** All crossings to somebody, by everything that could carry it, and why something cannot. */
export async function candidatesTo(
  context: PlanningContext,
  question: WaysQuestion,
  person: Person | null,
  people: readonly Person[],
): Promise<Gathered> {
  const gathered: Gathered = { candidates: [], excluded: [] };
  for (const bearer of context.bearers) await gather(context, question, person, bearer, gathered);
  if (person) await byHand(context, question, person, people, gathered);
  if (gathered.candidates.length === 0 && gathered.excluded.length === 0)
    gathered.excluded.push(person ? noneFor(person) : nobody(question.to));
  return gathered;
}

/** The ways to somebody, by everything that could carry it. Nothing is sent. */
export async function proposeWays(context: PlanningContext, question: WaysQuestion): Promise<WaysView> {
  const people = await listPeople(context.queries);
  const person = personKnownAs(question.to, people) ?? null;
  const gathered = await candidatesTo(context, question, person, people);
  const deadlineS = question.withinMin === null ? HORIZON_S : question.withinMin * 60;
  const { ways, cut } = findWays(crossingsOf(gathered.candidates), US, FAR, {
    deadlineS,
    mostCrossings: 2,
    mostLabels: 40,
  });
  const told = apart(ways);
  const chosen = [...told, ...sharingNothing(gathered.candidates, told, deadlineS)].slice(0, MOST_WAYS);
  const candidateOf = ({ crossings }: FoundWay) => gathered.candidates.find(({ id }) => id === crossings[0]?.id);
  const first = chosen[0] && candidateOf(chosen[0].way);
  const late = gathered.candidates.filter((candidate) => chanceInTime(candidate, deadlineS) <= 0);
  return {
    at: new Date(context.nowMs).toISOString(),
    person: person?.name ?? null,
    ways: chosen.flatMap(({ way, virtues }) => {
      const candidate = candidateOf(way);
      return first && candidate ? [planned(candidate, way, virtues, person, context.nowMs, first)] : [];
    }),
    excluded: [
      ...gathered.excluded,
      ...late.map(({ title }) => ({
        title,
        reason: 'Nothing of it would arrive in the time that it has.',
        remedy: 'Give it more time.',
      })),
    ],
    cut,
    askFirst: askFirst(gathered.candidates, question),
  };
}
