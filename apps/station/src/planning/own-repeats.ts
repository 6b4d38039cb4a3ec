import { FIXED_HALF_LIFE_S, learned, sharedOut, weightOf } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import type { Hop, Neighbourhood } from './hops';

/** What became of our own packets at their first hop, by the path element that asked for it: a fill-in serves WIDE1-1 alone. */
export interface OwnRepeats {
  /** What was sent with that first element, as it weighs by now. */
  readonly sent: ReadonlyMap<string, number>;
  /** Of these, what was heard repeated first by whom: `element/call`. */
  readonly repeated: ReadonlyMap<string, number>;
}

const WITHIN_MS = 24 * 3_600_000;
/** So long after it was sent a repeat may still be heard. */
const STILL_OPEN_MS = 10_000;
const MOST_ROWS = 2000;

/** Our own packets of a day over one bearer, those that were sent just now left out. */
export async function ownRepeats(queries: Queries, bearerId: string, nowMs: number): Promise<OwnRepeats> {
  const rows = await rowsOf<{ first: string; at: Date; by: string[] }>(
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
  const sent = new Map<string, number>();
  const repeated = new Map<string, number>();
  for (const { first, at, by } of rows) {
    const weight = weightOf((nowMs - at.getTime()) / 1000, FIXED_HALF_LIFE_S);
    sent.set(first, (sent.get(first) ?? 0) + weight);
    for (const call of by) repeated.set(`${first}/${call}`, (repeated.get(`${first}/${call}`) ?? 0) + weight);
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
  const tries = first === undefined ? 0 : (sent.get(first) ?? 0);
  if (tries === 0) return hops;
  return hops.map((hop) => {
    if (hop.from !== own || !repeaters.includes(hop.to)) return hop;
    const good = Math.min(tries, repeated.get(`${first}/${hop.to}`) ?? 0);
    const back = hops.find((one) => one.from === hop.to && one.to === own);
    // A repeat that we did not hear may have been one all the same.
    const belief = back
      ? sharedOut({ there: hop.belief, back: back.belief }, good, tries - good).there
      : learned(hop.belief, good, tries - good);
    return { ...hop, belief };
  });
}
