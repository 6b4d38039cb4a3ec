import type { HeardLink } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';

const MOST_LINKS = 1000;

/** Who heard whom, the last heard first; with a call, the links that it is part of. */
export async function listLinks(queries: Queries, call: string | null = null): Promise<HeardLink[]> {
  const rows = await rowsOf<{
    from_call: string;
    by_call: string;
    count: number;
    first_count: number;
    certain_count: number;
    first_at: Date;
    last_at: Date;
    best_km: number | null;
    best_at: Date | null;
  }>(
    queries,
    `select * from heard_link where count > 0 ${call === null ? '' : 'and (from_call = $2 or by_call = $2)'} order by last_at desc limit $1`,
    call === null ? [MOST_LINKS] : [MOST_LINKS, call],
  );
  const names = await namesOfNodes(queries);
  return rows.map((row) => ({
    from: row.from_call,
    by: row.by_call,
    fromName: names.get(row.from_call) ?? null,
    byName: names.get(row.by_call) ?? null,
    count: row.count,
    firstCount: row.first_count,
    certainCount: row.certain_count,
    firstAt: row.first_at.toISOString(),
    lastAt: row.last_at.toISOString(),
    bestKm: row.best_km,
    bestAt: row.best_at?.toISOString() ?? null,
  }));
}

/** Nodes of a mesh by number, as people know them: two may bear the same tag. */
async function namesOfNodes(queries: Queries): Promise<Map<string, string>> {
  const rows = await rowsOf<{ node: string; tag: string }>(
    queries,
    `select node, tag from mesh_node where tag <> node
     union select config->>'node', config->>'tag' from bearer where config ? 'tag'`,
    [],
  );
  return new Map(rows.map(({ node, tag }) => [node, `${tag} ${node}`]));
}
