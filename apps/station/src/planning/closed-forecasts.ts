import { bearerKind, type BearerKindId, type Prediction } from '@tombolo/contract';
import { RUNGS, rungIndex, type RetryPolicy } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';

/** Rungs that prove what was predicted: somebody took it. */
const PROVING = RUNGS.filter((rung) => rungIndex(rung) >= rungIndex('accepted'));
/** So long after the last try an answer may still come. */
const ANSWERED_WITHIN_S = 120;
const MOST_JUDGED = 10_000;

/** A forecast of which it is known how it came out. */
export interface ClosedForecast {
  /** As it was told. */
  readonly predicted: number;
  /** As it was reckoned, before it was corrected. */
  readonly reckoned: number;
  readonly happened: boolean;
  /** Whom it was sent to: a call, the number of a node, an address at a board. */
  readonly to: string;
  /** When it was made. */
  readonly at: Date;
  readonly basis: Prediction['basis'];
  readonly kind: BearerKindId;
}

/** What a bearer carries: packets, texts, messages or mail. */
export type Carried = ReturnType<typeof bearerKind>['sends'];

/** What the forecasts were of, each once. */
export const carriedIn = (closed: readonly ClosedForecast[]): Carried[] =>
  [...new Set(closed.map(({ kind }) => bearerKind(kind).sends))].sort();

/** The last forecasts that can be judged, and how many cannot yet. What was cancelled, or never left, is not judged. */
export async function closedForecasts(
  queries: Queries,
  nowMs: number,
): Promise<{ readonly closed: readonly ClosedForecast[]; readonly open: number }> {
  const rows = await rowsOf<
    ClosedForecast & { ended: boolean; cancelled: boolean; sent: boolean; policy: RetryPolicy }
  >(
    queries,
    `select p.proven as predicted, coalesce(p.reckoned, p.proven) as reckoned, p.basis, p.bearer_kind as kind,
       coalesce(l.detail->>'node', l.to_call) as to,
       l.next_at is null as ended, p.at, l.policy, x.* from prediction p join leg l on l.id = p.leg_id
     left join lateral (
       select coalesce(bool_or(e.kind = any($1)), false) as happened, coalesce(bool_or(e.kind = 'cancelled'), false) as cancelled,
              coalesce(bool_or(e.kind = 'sent'), false) as sent
       from evidence e where e.leg_id = p.leg_id) x on true
     order by p.at desc limit ${MOST_JUDGED}`,
    [PROVING],
  );
  // What was answered waits as long as what was not: judged at once, the good ones would stand alone.
  const closed = rows.filter(
    ({ happened, ended, cancelled, sent, at, policy }) =>
      ended &&
      sent &&
      (happened || !cancelled) &&
      nowMs - at.getTime() > 1000 * (triedForS(policy) + ANSWERED_WITHIN_S),
  );
  return { closed, open: rows.length - closed.length };
}

/** How long the tries of a policy take, s, when none is answered. */
function triedForS({ firstS, factor, capS, tries, jitter }: RetryPolicy): number {
  let sum = 0;
  for (let k = 1; k < tries; k++) sum += Math.min(firstS * factor ** (k - 1), capS) * (1 + jitter);
  return sum;
}
