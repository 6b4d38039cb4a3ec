import { FIXED_HALF_LIFE_S, learned, meanOf, sharedOut, weightOf } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import type { Hop } from './hops';

/** Our own texts on a mesh within a day: whole counts, and what they weigh by now. */
export interface OwnFloods {
  readonly sent: number;
  /** Somebody was heard repeating them, or answered. */
  readonly carried: number;
  readonly weight: { readonly carried: number; readonly lost: number };
}

const WITHIN_MS = 24 * 3_600_000;
/** So long after it was sent a repeat may still be heard. */
const STILL_OPEN_MS = 30_000;
const MOST_ROWS = 500;

/** What became of our own texts of a day over one bearer, those that were sent just now left out. */
export async function ownFloods(queries: Queries, bearerId: string, nowMs: number): Promise<OwnFloods> {
  const rows = await rowsOf<{ at: Date; carried: boolean }>(
    queries,
    `select e.at, exists (
       select 1 from evidence r where r.leg_id = e.leg_id and r.kind = any($4)
         and (r.attempt is null or e.attempt is null or r.attempt = e.attempt)) as carried
     from evidence e join leg l on l.id = e.leg_id
     where e.kind = 'sent' and l.bearer_id = $1 and l.role = 'convey' and e.at > $2 and e.at < $3
     order by e.at desc limit ${MOST_ROWS}`,
    [
      bearerId,
      new Date(nowMs - WITHIN_MS),
      new Date(nowMs - STILL_OPEN_MS),
      ['relayed', 'accepted', 'delivered', 'answered'],
    ],
  );
  return floodsIn(rows, nowMs);
}

/** What they come to. */
export function floodsIn(rows: readonly { readonly at: Date; readonly carried: boolean }[], nowMs: number): OwnFloods {
  const weigh = (carried: boolean) =>
    rows.reduce(
      (sum, row) =>
        row.carried === carried ? sum + weightOf((nowMs - row.at.getTime()) / 1000, FIXED_HALF_LIFE_S) : sum,
      0,
    );
  return {
    sent: rows.length,
    carried: rows.filter(({ carried }) => carried).length,
    weight: { carried: weigh(true), lost: weigh(false) },
  };
}

/**
 * Our own first hops after what became of our texts. Of one that was carried on somebody heard it: each gets its part of that by how likely it
 * did, given that one of them did. Of one that nobody was heard to carry none may have heard it, or its repeat was lost on the way back.
 * @param nearest nodes that are heard straight: others would hardly hear us
 */
export function withOwnFloods(
  hops: readonly Hop[],
  own: string,
  nearest: ReadonlySet<string>,
  { sent, carried, weight }: OwnFloods,
): readonly Hop[] {
  if (sent === 0) return hops;
  const first = hops.filter((hop) => hop.from === own && nearest.has(hop.to));
  const anyHears = 1 - first.reduce((none, { belief }) => none * (1 - meanOf(belief)), 1);
  return hops.map((hop) => {
    if (!first.includes(hop)) return hop;
    const part = anyHears > 0 ? Math.min(1, meanOf(hop.belief) / anyHears) : 0;
    const back = hops.find((one) => one.from === hop.to && one.to === own)?.belief;
    const heard = learned(hop.belief, weight.carried * part, weight.carried * (1 - part));
    const belief = back ? sharedOut({ there: heard, back }, 0, weight.lost).there : learned(heard, 0, weight.lost);
    return { ...hop, belief, rests: { ...hop.rests, ours: { element: null, sent, repeated: carried } } };
  });
}
