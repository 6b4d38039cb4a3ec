import { elementForm, FIXED_HALF_LIFE_S, learned, sharedOut, weightOf } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import type { Hop, Neighbourhood } from './hops';

/** What became of our own packets at their first hop, by the path element that asked for it: a fill-in serves WIDE1-1 alone. */
export interface OwnRepeats {
  /** What was sent with a first element that asks for that, such as `WIDE1`. */
  readonly sent: ReadonlyMap<string, Packets>;
  /** Of these, what was heard repeated first by whom: `WIDE1/QT0FA-1`. */
  readonly repeated: ReadonlyMap<string, Packets>;
}

export interface Packets {
  readonly count: number;
  /** What they weigh by now. */
  readonly weight: number;
}
const NONE: Packets = { count: 0, weight: 0 };

const WITHIN_MS = 24 * 3_600_000;
/** So long after it was sent a repeat may still be heard. */
const STILL_OPEN_MS = 10_000;
const MOST_ROWS = 2000;

/** Our own packets of a day over one bearer, those that were sent just now left out. */
export async function ownRepeats(queries: Queries, bearerId: string, nowMs: number): Promise<OwnRepeats> {
  const rows = await rowsOf<RepeatedRow>(
    queries,
    `select l.path[1] as first, e.at,
            array(select distinct r.via[1] from evidence r
                  where r.leg_id = e.leg_id and r.kind = 'relayed' and r.via[1] is not null
                    and (r.attempt is null or e.attempt is null or r.attempt = e.attempt)) as by
     from evidence e join leg l on l.id = e.leg_id
     where e.kind = 'sent' and l.bearer_id = $1 and cardinality(l.path) > 0 and e.at > $2 and e.at < $3
     order by e.at desc limit ${MOST_ROWS}`,
    [bearerId, new Date(nowMs - WITHIN_MS), new Date(nowMs - STILL_OPEN_MS)],
  );
  return repeatsIn(rows, nowMs);
}

/**
 * What an element asks for, however often it may be repeated: who serves `WIDE2-2` serves `WIDE2-1` too, and a fill-in serves neither.
 */
const askedFor = (element: string): string =>
  elementForm(element) === 'generic' ? element.replace(/-\d$/, '') : element;

/** One packet of ours, by its first path element, and who was heard repeating it first. */
export interface RepeatedRow {
  readonly first: string;
  readonly at: Date;
  readonly by: readonly string[];
}

/** What they come to. */
export function repeatsIn(rows: readonly RepeatedRow[], nowMs: number): OwnRepeats {
  const sent = new Map<string, Packets>();
  const repeated = new Map<string, Packets>();
  const add = (to: Map<string, Packets>, key: string, weight: number) => {
    const before = to.get(key) ?? NONE;
    to.set(key, { count: before.count + 1, weight: before.weight + weight });
  };
  for (const { first, at, by } of rows) {
    const weight = weightOf((nowMs - at.getTime()) / 1000, FIXED_HALF_LIFE_S);
    const asked = askedFor(first);
    add(sent, asked, weight);
    for (const call of by) add(repeated, `${asked}/${call}`, weight);
  }
  return { sent, repeated };
}

/** The hops as a path with that first element finds them: what we sent so, and who repeated it, decides about our own first hop. */
export function hopsFor(
  { hops, repeaters }: Pick<Neighbourhood, 'hops' | 'repeaters'>,
  own: string,
  first: string | undefined,
  { sent, repeated }: OwnRepeats,
): readonly Hop[] {
  const asked = first === undefined ? undefined : askedFor(first);
  const tries = asked === undefined ? undefined : sent.get(asked);
  if (!tries) return hops;
  return hops.map((hop) => {
    if (hop.from !== own || !repeaters.includes(hop.to)) return hop;
    const heard = repeated.get(`${asked}/${hop.to}`) ?? NONE;
    const good = Math.min(tries.weight, heard.weight);
    const lost = tries.weight - good;
    const back = hops.find((one) => one.from === hop.to && one.to === own);
    // A repeat that we did not hear may have been one all the same.
    const belief = back
      ? sharedOut({ there: hop.belief, back: back.belief }, good, lost).there
      : learned(hop.belief, good, lost);
    const ours = { element: asked!, sent: tries.count, repeated: heard.count };
    return { ...hop, belief, rests: { ...hop.rests, ours } };
  });
}
