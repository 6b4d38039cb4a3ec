import type { ItemDetail, ItemSummary } from '@tombolo/contract';
import { joinParts, PARTS_WITHIN_MS, readPart, textsOfParts, type Part } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import type { ItemRow } from '../store/entities';

type Keyed = Pick<ItemRow, 'id' | 'direction' | 'kind' | 'sender' | 'addressee' | 'body' | 'createdAt'>;

interface PartRow extends Part {
  readonly id: string;
  readonly atMs: number;
  readonly filed: boolean;
  /** When we last answered it. */
  readonly answeredMs: number | null;
}

interface Row {
  run: string;
  id: string;
  body: string;
  created_at: Date;
  filed: boolean;
  answered_at: Date | null;
}

/** Somebody who sends more of one letter within the hours has each shown by itself. */
const MOST_OF_ONE = 200;

/** Parts of one letter between two stations, as far as they may belong together. */
interface Run {
  readonly of: Keyed;
  readonly part: Part;
  readonly fromMs: number;
  toMs: number;
}

/** The direction stands in the statement, so that the index over what came serves it. */
const rowsOfRuns = (queries: Queries, direction: Keyed['direction'], runs: readonly Run[]): Promise<Row[]> =>
  runs.length === 0
    ? Promise.resolve([])
    : rowsOf<Row>(
        queries,
        `select k.run, i.id, i.body, i.created_at, i.filed_at is not null as filed,
           (select max(at) from evidence e where e.item_id = i.id and e.kind = 'answered') as answered_at
         from unnest($1::text[], $2::text[], $3::text[], $4::timestamptz[], $5::timestamptz[])
           with ordinality as k (sender, addressee, pattern, after, before, run)
         cross join lateral (
           select * from item where direction = '${direction}' and sender = k.sender and addressee = k.addressee and kind = 'text'
             and not refused and created_at between k.after and k.before and body ~ k.pattern
           order by created_at, id limit ${MOST_OF_ONE}) i
         order by k.run, i.created_at, i.id`,
        [
          runs.map(({ of }) => of.sender),
          runs.map(({ of }) => of.addressee),
          runs.map(({ part }) => `^\\([1-9]/${part.of}${part.set}\\+?\\) `),
          runs.map(({ fromMs }) => new Date(fromMs)),
          runs.map(({ toMs }) => new Date(toMs)),
        ],
      );

/** Of items, the parts of the text that each belongs to, oldest first; what is a text of its own is left out. */
async function textsOf(queries: Queries, items: readonly Keyed[]): Promise<Map<string, readonly PartRow[]>> {
  const runs = new Map<string, Run[]>();
  const parts = items
    .flatMap((of) => {
      const part = of.kind === 'text' ? readPart(of.body) : null;
      return part ? [{ of, part, atMs: of.createdAt.getTime() }] : [];
    })
    .sort((a, b) => a.atMs - b.atMs);
  for (const { of, part, atMs } of parts) {
    const key = JSON.stringify([of.direction, of.sender, of.addressee, part.set, part.of]);
    const [fromMs, toMs] = [atMs - 2 * PARTS_WITHIN_MS, atMs + PARTS_WITHIN_MS];
    const known = runs.get(key) ?? [];
    const last = known.at(-1);
    if (last && fromMs <= last.toMs) last.toMs = toMs;
    else known.push({ of, part, fromMs, toMs });
    runs.set(key, known);
  }
  const byRun = new Map<string, PartRow[]>();
  for (const direction of ['in', 'out'] as const)
    for (const row of await rowsOfRuns(
      queries,
      direction,
      [...runs.values()].flat().filter(({ of }) => of.direction === direction),
    )) {
      const part = readPart(row.body);
      if (!part) continue;
      const { id, filed, created_at, answered_at } = row;
      const run = `${direction} ${row.run}`;
      const one = { ...part, id, atMs: created_at.getTime(), filed, answeredMs: answered_at?.getTime() ?? null };
      byRun.set(run, [...(byRun.get(run) ?? []), one]);
    }
  const wanted = new Set(items.map(({ id }) => id));
  const texts = [...byRun.values()].flatMap((run) =>
    // Of what came at one time the lower number comes first.
    textsOfParts(run.sort((a, b) => a.atMs - b.atMs || a.n - b.n)),
  );
  return new Map(texts.flatMap((text) => text.flatMap(({ id }) => (wanted.has(id) ? [[id, text] as const] : []))));
}

/** The whole of which an item is a part, as far as it is there; null for a text of its own. */
export async function partsOf(queries: Queries, item: Keyed): Promise<ItemDetail['parts']> {
  const text = (await textsOf(queries, [item])).get(item.id);
  const part = text?.find(({ id }) => id === item.id);
  if (!text || !part) return null;
  const { shown, missing } = joinParts(text);
  const ids = new Map(text.map(({ n, id }) => [n, id]));
  return {
    set: part.set,
    n: part.n,
    of: part.of,
    text: shown,
    missing: [...missing],
    items: [...ids].sort(([a], [b]) => a - b).map(([n, id]) => ({ n, id })),
  };
}

/** How an arrived part stands in a list. */
export interface ListedPart {
  /** It stands for its text: of one text only one part asks for an answer, and one that comes after the answer asks for another. */
  readonly needsAnswer: boolean;
  readonly whole: ItemSummary['whole'];
}

const isHandled = (part: PartRow, text: readonly PartRow[]): boolean =>
  part.filed || text.some(({ answeredMs }) => answeredMs !== null && answeredMs >= part.atMs);

/** The arrived parts of longer texts among items, as they stand in a list. */
export async function listedParts(queries: Queries, items: readonly Keyed[]): Promise<Map<string, ListedPart>> {
  const texts = await textsOf(
    queries,
    items.filter(({ direction }) => direction === 'in'),
  );
  return new Map(
    [...texts].map(([id, text]): [string, ListedPart] => {
      const needsAnswer = text.find((part) => !isHandled(part, text))?.id === id;
      const { shown, missing } = joinParts(text);
      const { of } = text[0]!;
      return [
        id,
        {
          needsAnswer,
          whole: needsAnswer || text[0]!.id === id ? { text: shown, of, there: of - missing.length } : null,
        },
      ];
    }),
  );
}

/** The other parts of the text that an item is a part of: they show it anew when it changes. */
export async function otherParts(queries: Queries, item: Keyed): Promise<string[]> {
  const text = (await textsOf(queries, [item])).get(item.id) ?? [];
  return text.flatMap(({ id }) => (id === item.id ? [] : [id]));
}

/** A part that came changes what the others of its text show. */
export async function touchOtherParts(
  queries: Queries,
  { at, ...came }: Pick<Keyed, 'id' | 'sender' | 'addressee' | 'body'> & { readonly at: Date },
  touched: Set<string>,
): Promise<void> {
  for (const id of await otherParts(queries, { ...came, direction: 'in', kind: 'text', createdAt: at }))
    touched.add(id);
}

/** What came so shortly before something is filed was perhaps not seen yet. */
const UNSEEN_MS = 5000;

/**
 * The parts that lie open with those of `items` that stand for their texts: who files the one has done with what was there of the text. What
 * comes while somebody files it stays, and needs somebody.
 */
export async function openWith(queries: Queries, items: readonly Keyed[], at: Date): Promise<string[]> {
  const texts = await textsOf(
    queries,
    items.filter(({ direction }) => direction === 'in'),
  );
  return [...texts].flatMap(([id, text]) =>
    text.find(({ filed }) => !filed)?.id === id
      ? text.flatMap(({ filed, atMs, id: one }) => (filed || atMs > at.getTime() - UNSEEN_MS ? [] : [one]))
      : [],
  );
}
