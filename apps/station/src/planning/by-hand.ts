import { arrivalOf, writeMeantFor, type Arrival } from '@tombolo/core';
import { carriageOf, type BearerView, type Person, type WaysQuestion } from '@tombolo/contract';
import type { Candidate } from './candidate';
import type { PlanningContext } from './context';
import { cautionsOf, gather, type Gathered } from './gather';

/** Whether and when somebody brings what they have: not seen by us (common practice, no source). */
const BROUGHT = 0.8;
const carried = (aboutMin: number): Arrival =>
  arrivalOf(
    [
      { part: 0.4, chance: 0.1 },
      { part: 1, chance: 0.5 },
      { part: 2, chance: 0.25 },
      { part: 4, chance: 0.15 },
    ].map(({ part, chance }) => ({ atS: 60 * aboutMin * part, chance: BROUGHT * chance })),
  );

/** What somebody keeps in the hand until it is handed over: what waits at a board or in a mailbox may be seen tomorrow. */
const AT_HAND: ReadonlySet<string> = new Set(['packets', 'texts']);

/** The crossings to those who take something to somebody by hand, each with the name in front of the text. */
export async function byHand(
  context: PlanningContext,
  question: WaysQuestion,
  person: Person,
  people: readonly Person[],
  into: Gathered,
): Promise<void> {
  for (const { person: id, aboutMin } of person.broughtBy) {
    const carrier = people.find((one) => one.id === id);
    if (!carrier) continue;
    const words = `${carrier.name} brings it to ${person.name} by hand, in about ${aboutMin} min as noted under People; that it is brought is a guess of ${Math.round(100 * BROUGHT)} of 100.`;
    const asked = { ...question, to: carrier.name, text: writeMeantFor(person.name, question.text) };
    for (const bearer of context.bearers) {
      if (!AT_HAND.has(carriageOf(bearer.config).what)) continue;
      const toCarrier: Gathered = { candidates: [], excluded: [] };
      await gather(context, asked, carrier, bearer, toCarrier);
      into.candidates.push(
        ...toCarrier.candidates
          // A phone that is asked to hand on is asked by whoever it belongs to, not by a gateway.
          .filter(({ holder }) => holder.beyond === null)
          .map((candidate) => brought(candidate, carrier, person, bearer, { arrival: carried(aboutMin), words })),
      );
      into.excluded.push(
        ...toCarrier.excluded.map((one) => ({ ...one, title: `By hand of ${carrier.name}: ${one.title}` })),
      );
    }
  }
}

const brought = (
  candidate: Candidate,
  carrier: Person,
  person: Person,
  bearer: BearerView,
  beyond: NonNullable<Candidate['holder']['beyond']>,
): Candidate => ({
  ...candidate,
  id: `${candidate.id} by ${carrier.id}`,
  title: `By hand of ${carrier.name}: ${candidate.title}`,
  how: `${candidate.how}, then by hand of ${carrier.name}`,
  holder: { name: carrier.name, beyond },
  together: {
    ...candidate.together,
    causes: new Map([...candidate.together.causes, [`beyond ${carrier.name}`, beyond.arrival.chance]]),
  },
  // Who brings it has it then; nobody else is proved to.
  proof: candidate.proof && { ...candidate.proof, rung: 'accepted' },
  cautions: [...new Set([...candidate.cautions, ...cautionsOf(bearer, person), beyond.words])],
  send: { ...candidate.send, broughtBy: carrier.name },
  // Whether they can be asked tells nothing of whether it is brought.
  askable: null,
});
