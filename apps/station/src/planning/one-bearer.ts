import type { PlannedCrossing } from '@tombolo/contract';
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
  const best = leastOfSurest(candidates, ({ arrives: { chance }, airS }) => ({ chance, airS }));
  if (!best) return null;
  const { arrives, holder, proof, send } = best;
  return {
    path: send.way.by === 'packets' ? [...send.way.path] : null,
    takenBy: holder.name,
    arrives: arrives.chance,
    proven: proof?.proven.chance ?? null,
  };
}
