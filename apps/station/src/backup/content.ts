import type { Client } from 'pg';
import { z } from 'zod';

/** What is in a backup, as it stands in front of the data. */
export const manifest = z.object({
  format: z.literal(1),
  createdAt: z.iso.datetime(),
  version: z.string(),
  /** Own call with SSID, as far as it was set. */
  station: z.string(),
  items: z.number().int(),
  packets: z.number().int(),
  maps: z.number().int(),
  /** Transmissions that were waiting to go out. */
  waiting: z.number().int(),
  /** Of every table how many rows it has, and a digest over all of them. */
  tables: z.record(z.string(), z.object({ rows: z.number().int(), digest: z.string() })),
});
export type Manifest = z.infer<typeof manifest>;

export type TableDigests = Manifest['tables'];

/** Every table of ours, with its rows counted and digested whatever their order. */
export async function digestsOf(client: Client): Promise<TableDigests> {
  const { rows } = await client.query<{ name: string }>(
    `select c.relname as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
     where n.nspname = 'public' and c.relkind in ('r', 'p') and not c.relispartition order by 1`,
  );
  const tables: Record<string, { rows: number; digest: string }> = {};
  for (const { name } of rows) {
    const { rows: found } = await client.query<{ rows: string; digest: string | null }>(
      `select count(*) as rows, sum(('x' || substr(md5(t::text), 1, 16))::bit(64)::bigint::numeric)::text as digest
       from public.${client.escapeIdentifier(name)} t`,
    );
    tables[name] = { rows: Number(found[0]!.rows), digest: found[0]!.digest ?? '0' };
  }
  return tables;
}

/** Tables in which a restored copy is not what was saved. */
export const differing = (wanted: TableDigests, found: TableDigests): string[] =>
  [...new Set([...Object.keys(wanted), ...Object.keys(found)])].filter(
    (name) => wanted[name]?.rows !== found[name]?.rows || wanted[name]?.digest !== found[name]?.digest,
  );
