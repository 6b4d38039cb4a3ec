import type { LegView } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import type { LegRow } from '../store/entities';

/** Transmissions as others see them, in the same order. */
export async function legViews(queries: Queries, legs: readonly LegRow[]): Promise<LegView[]> {
  const tries = await rowsOf<{ leg_id: string; made: number }>(
    queries,
    'select leg_id, count(*)::int as made from attempt where leg_id = any($1::uuid[]) group by leg_id',
    [legs.map(({ id }) => id)],
  );
  const made = new Map(tries.map((row) => [row.leg_id, row.made]));
  return legs.map((leg) => ({
    id: leg.id,
    role: leg.role,
    bearerId: leg.bearerId,
    from: leg.fromCall,
    to: leg.toCall,
    path: leg.path,
    createdAt: leg.createdAt.toISOString(),
    nextAt: leg.nextAt?.toISOString() ?? null,
    held: leg.held,
    tries: leg.policy.tries ?? 0,
    triesMade: made.get(leg.id) ?? 0,
  }));
}
