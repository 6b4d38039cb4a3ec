import { carriageOf, hasShown, type PlannedCrossing } from '@tombolo/contract';
import type { Candidate } from './candidate';
import type { PlanningContext } from './context';
import { leastOfSurest } from './nearly-surest';
import { crossingsTo } from './propose';

/** One text to one address, where the bearer is settled already. */
export interface ToBeCarried {
  readonly bearerId: string;
  readonly address: string;
  readonly text: string;
  /** How often it is sent at most. */
  readonly times: number;
}

/** How it is best carried there, and how surely whoever takes it from us does; null where nothing can be said. */
export async function plannedCrossing(
  context: PlanningContext,
  { bearerId, address, text, times }: ToBeCarried,
): Promise<PlannedCrossing | null> {
  const candidates = await crossingsTo(
    context,
    { to: address, text, precedence: 'routine', withinMin: null },
    { bearerId, address, times },
  );
  const best = toGoBy(candidates, usualPathOf(context, bearerId));
  if (!best) return null;
  const { arrives, holder, proof, send } = best;
  return {
    path: send.way.by === 'packets' ? [...send.way.path] : null,
    takenBy: holder.name,
    arrives: arrives.chance,
    proven: proof?.proven.chance ?? null,
  };
}

/** As the operator set it on the modem; null of what knows no path. */
function usualPathOf({ bearers }: PlanningContext, bearerId: string): string | null {
  const bearer = bearers.find(({ id }) => id === bearerId);
  const carriage = bearer && carriageOf(bearer.config);
  return carriage?.what === 'packets' ? carriage.path.join() : null;
}

/** What has shown that it works goes before what is only believed; while nothing has, it is the path that the operator set. */
function toGoBy(candidates: readonly Candidate[], usualPath: string | null): Candidate | undefined {
  const shown = candidates.filter(hasShown);
  const usual = candidates.filter(({ send: { way } }) => way.by === 'packets' && way.path.join() === usualPath);
  const among = [shown, usual, candidates].find((some) => some.length > 0) ?? [];
  return leastOfSurest(among, ({ arrives: { chance }, airS }) => ({ chance, airS }));
}
