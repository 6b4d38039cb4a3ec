import { across, chanceBy, findWays, type FoundWay } from '@tombolo/core';
import { personKnownAs, type WaysQuestion, type WaysView } from '@tombolo/contract';
import { listPeople } from '../people/people';
import { askFirst } from './ask-first';
import { byHand } from './by-hand';
import { apart, planned, sharingNothing } from './apart';
import { crossingsOf, FAR, US, type Candidate } from './candidate';
import type { PlanningContext } from './context';
import { gather, type Gathered, type Only } from './gather';

/** Where no deadline is given: what comes later than a day does not help. */
const HORIZON_S = 24 * 3600;
/** More are not told apart. */
const MOST_WAYS = 5;

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

/** The ways to somebody, by everything that could carry it. Nothing is sent. */
export async function proposeWays(context: PlanningContext, question: WaysQuestion): Promise<WaysView> {
  const people = await listPeople(context.queries);
  const person = personKnownAs(question.to, people) ?? null;
  const gathered: Gathered = { candidates: [], excluded: [] };
  for (const bearer of context.bearers) await gather(context, question, person, bearer, gathered);
  if (person) await byHand(context, question, person, people, gathered);
  if (gathered.candidates.length === 0 && gathered.excluded.length === 0)
    gathered.excluded.push({
      title: question.to,
      reason: 'Nobody of that name is on the list of people, and it is no address that a bearer of yours reaches.',
      remedy:
        'Write a call, the number of a node, a mail address, somebody at a board (QT1NC@QT1BB-4), or add them under Tools, People.',
    });
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
  const late = gathered.candidates.filter(
    ({ arrival, holder: { beyond } }) =>
      chanceBy(beyond ? across(arrival, beyond.arrival, beyond.opensAt) : arrival, deadlineS) <= 0,
  );
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
