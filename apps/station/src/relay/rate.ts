import { rowsOf, type Queries } from '../store/database';
import { RULE_LOCK } from '../store/locks';

/** A standing rule, and how often it may hand something on. */
export interface RelayRate {
  readonly id: string;
  readonly mostPerHour: number;
}

/**
 * What a rule may still hand on within the hour before `at`, counted by what it queued. In a transaction that goes on to hand something on the
 * lock makes several processes take turns.
 */
export async function leftInHour(queries: Queries, { id, mostPerHour }: RelayRate, at: Date): Promise<number> {
  await queries.query('select pg_advisory_xact_lock($1, hashtext($2))', [RULE_LOCK, id]);
  const [row] = await rowsOf<{ n: number }>(
    queries,
    `select count(*)::int as n from leg where detail->'relay'->>'rule' = $1 and created_at > $2`,
    [id, new Date(at.getTime() - 3600_000)],
  );
  return mostPerHour - (row?.n ?? 0);
}
