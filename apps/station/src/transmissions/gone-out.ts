import { rowsOf, type Queries } from '../store/database';

export interface GoneOut {
  readonly id: string;
  /** How often it went out since it changed last. */
  readonly times: number;
  readonly last_at: Date | null;
  /** One waits to go out. */
  readonly waits: boolean;
}

/** What goes out by itself, by its table and what its transmissions call it. */
const TOLD = {
  object: { table: 'own_object', detail: 'object' },
  bulletin: { table: 'own_bulletin', detail: 'ownBulletin' },
} as const;

/** How often each of what we tell by ourselves was sent since it changed last. */
export function goneOut(queries: Queries, what: keyof typeof TOLD, ids: readonly string[]): Promise<GoneOut[]> {
  const { table, detail } = TOLD[what];
  return rowsOf<GoneOut>(
    queries,
    `select o.id, count(e.at)::int as times, max(e.at) as last_at,
       coalesce(bool_or(l.next_at is not null and e.at is null), false) as waits
     from ${table} o
     left join leg l on l.detail ? '${detail}' and l.detail->>'${detail}' = o.id::text and l.created_at >= o.changed_at
     left join lateral (select min(at) as at from evidence where leg_id = l.id and kind = 'sent') e on true
     where o.id = any($1::uuid[]) group by o.id`,
    [ids],
  );
}
