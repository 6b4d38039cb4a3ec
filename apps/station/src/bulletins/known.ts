import { rowsOf, storable, type Queries } from '../store/database';

/** The same bulletin heard again within a day is the same bulletin. (Common practice, no source.) */
const SAME_MS = 24 * 3_600_000;
/** Copies of one packet come within that time. */
const COPIES_MS = 60_000;

/** What a bulletin says, and who says it in which line. */
export interface Said {
  readonly sender: string;
  readonly addressee: string;
  readonly text: string;
}

interface Known {
  readonly id: string;
  readonly createdAtMs: number;
  lastAtMs: number | null;
  times: number;
}

/** Bulletins of one batch: those before are looked up together, and how often they were heard is written together. */
export interface KnownBulletins {
  /** Reads which of these are kept already, each as far as a day from when it was heard. */
  read(queries: Queries, said: readonly (Said & { readonly atMs: number })[]): Promise<void>;
  /** The item of the same bulletin, heard within a day before or after; null when it is new. */
  itemOf(said: Said, atMs: number): string | null;
  /** One that was read was heard, for the first time or again. */
  heard(itemId: string, atMs: number): void;
  /** Its row says something else now. */
  forget(itemId: string): void;
  /** Writes how often, and when last. */
  write(queries: Queries): Promise<void>;
}

const keyOf = ({ sender, addressee, text }: Said): string =>
  JSON.stringify([sender, storable(addressee), storable(text)]);

/** One writer at a time keeps bulletins (the lock of the ingest), so counts are read once and written back whole. */
export function createKnownBulletins(): KnownBulletins {
  const bySaying = new Map<string, Known[]>();
  const byId = new Map<string, Known>();
  const changed = new Set<string>();
  return {
    async read(queries, said) {
      if (said.length === 0) return;
      const each = [...new Map(said.map((one) => [keyOf(one), one])).values()];
      const times = said.map(({ atMs }) => atMs);
      const rows = await rowsOf<{
        id: string;
        sender: string;
        addressee: string;
        body: string;
        created_at: Date;
        last_at: Date | null;
        times: number | null;
      }>(
        queries,
        `select i.id, i.sender, i.addressee, i.body, i.created_at, h.last_at, h.times
         from unnest($1::text[], $2::text[], $3::text[]) as said (sender, addressee, body)
         join item i using (sender, addressee, body) left join bulletin_heard h on h.item_id = i.id
         where i.direction = 'in' and i.kind = 'bulletin' and i.created_at between $4 and $5 order by i.created_at`,
        [
          each.map(({ sender }) => sender),
          each.map(({ addressee }) => storable(addressee)),
          each.map(({ text }) => storable(text)),
          new Date(Math.min(...times) - SAME_MS),
          new Date(Math.max(...times) + SAME_MS),
        ],
      );
      for (const { id, sender, addressee, body, created_at: createdAt, last_at: lastAt, times: n } of rows) {
        if (byId.has(id)) continue;
        const known = { id, createdAtMs: createdAt.getTime(), lastAtMs: lastAt?.getTime() ?? null, times: n ?? 0 };
        byId.set(id, known);
        const key = keyOf({ sender, addressee, text: body });
        bySaying.set(key, [...(bySaying.get(key) ?? []), known]);
      }
    },
    itemOf(said, atMs) {
      const same = bySaying.get(keyOf(said))?.find(({ createdAtMs }) => Math.abs(createdAtMs - atMs) <= SAME_MS);
      return same?.id ?? null;
    },
    heard(itemId, atMs) {
      const known = byId.get(itemId);
      // A count that is missed is not worth a reception that is not stored.
      if (!known || (known.lastAtMs !== null && atMs <= known.lastAtMs + COPIES_MS)) return;
      known.lastAtMs = atMs;
      known.times++;
      changed.add(itemId);
    },
    forget(itemId) {
      for (const [key, known] of bySaying)
        bySaying.set(
          key,
          known.filter(({ id }) => id !== itemId),
        );
    },
    async write(queries) {
      if (changed.size === 0) return;
      const rows = [...changed].sort().map((id) => byId.get(id)!);
      changed.clear();
      await queries.query(
        `insert into bulletin_heard (item_id, last_at, times) select * from unnest($1::uuid[], $2::timestamptz[], $3::int[])
         on conflict (item_id) do update set last_at = excluded.last_at, times = excluded.times`,
        [rows.map(({ id }) => id), rows.map(({ lastAtMs }) => new Date(lastAtMs!)), rows.map(({ times }) => times)],
      );
    },
  };
}
