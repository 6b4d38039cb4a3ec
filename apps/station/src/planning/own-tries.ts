import { FIXED_HALF_LIFE_S, weightOf } from '@tombolo/core';
import { OWN_TRIES_DAYS } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';

/** What came of our own tries that asked for an answer: whole counts, and what they weigh by now. */
export interface OwnTries {
  readonly answered: number;
  readonly unanswered: number;
  readonly weight: { readonly answered: number; readonly unanswered: number };
  /** What they weigh of the other end: who does not answer texts stays so for longer than the air stays as it is. */
  readonly lasting: { readonly answered: number; readonly unanswered: number };
}

export const NO_TRIES: OwnTries = {
  answered: 0,
  unanswered: 0,
  weight: { answered: 0, unanswered: 0 },
  lasting: { answered: 0, unanswered: 0 },
};

const DAY_S = 86_400;
/** A set that acknowledges goes on doing so until somebody changes it (common practice, no source). */
const LASTING_HALF_LIFE_S = 7 * DAY_S;
const WITHIN_MS = 1000 * OWN_TRIES_DAYS * DAY_S;
/** Kinds of evidence that answer a try. */
const ANSWERS = ['accepted', 'handed on', 'delivered', 'answered'];
/** So long an answer may still come to the last try. */
const STILL_OPEN_MS = 60_000;

/** Of tries over one path to one address. */
export const triesKey = (address: string, path: readonly string[]): string => [address, ...path].join('>');

/** By the address that they went to and the path that they took, over one bearer. */
export async function ownTries(
  queries: Queries,
  bearerId: string,
  addresses: readonly string[],
  nowMs: number,
): Promise<ReadonlyMap<string, OwnTries>> {
  const rows = await rowsOf<TriedRow>(
    queries,
    `select l.to_call, l.detail->>'node' as node, l.path, l.created_at, max(e.at) filter (where e.kind = 'sent') as last,
            (count(*) filter (where e.kind = 'sent'))::int as sent, bool_or(e.kind = any($4)) as answered
     from leg l join evidence e on e.leg_id = l.id
     where l.bearer_id = $1 and l.created_at > $2 and l.created_at < $5 and l.role = 'convey' and l.acknowledgement_asked
       and (l.to_call = any($3) or l.detail->>'node' = any($3))
     group by l.id having count(*) filter (where e.kind = 'sent') > 0`,
    [bearerId, new Date(nowMs - WITHIN_MS), addresses, ANSWERS, new Date(nowMs)],
  );
  return triesIn(rows, addresses, nowMs);
}

/** One transmission that asked for an answer, with how often it was sent. */
export interface TriedRow {
  readonly to_call: string;
  readonly node: string | null;
  readonly path: string[];
  readonly created_at: Date;
  readonly sent: number;
  readonly last: Date;
  readonly answered: boolean;
}

/** What they come to, by address and path. */
export function triesIn(
  rows: readonly TriedRow[],
  addresses: readonly string[],
  nowMs: number,
): ReadonlyMap<string, OwnTries> {
  const tries = new Map<string, OwnTries>();
  for (const row of rows) {
    const address = triesKey(row.node !== null && addresses.includes(row.node) ? row.node : row.to_call, row.path);
    const before = tries.get(address) ?? NO_TRIES;
    const open = !row.answered && nowMs - row.last.getTime() < STILL_OPEN_MS ? 1 : 0;
    const answered = row.answered ? 1 : 0;
    const unanswered = row.sent - answered - open;
    const ageS = (nowMs - row.created_at.getTime()) / 1000;
    const weight = weightOf(ageS, FIXED_HALF_LIFE_S);
    const lasting = weightOf(ageS, LASTING_HALF_LIFE_S);
    tries.set(address, {
      answered: before.answered + answered,
      unanswered: before.unanswered + unanswered,
      weight: {
        answered: before.weight.answered + weight * answered,
        unanswered: before.weight.unanswered + weight * unanswered,
      },
      lasting: {
        answered: before.lasting.answered + lasting * answered,
        unanswered: before.lasting.unanswered + lasting * unanswered,
      },
    });
  }
  return tries;
}

/** Sessions with a station that was called: how many were held to their end, and how many not. */
export async function sessionsHeld(queries: Queries, bearerId: string, nowMs: number): Promise<OwnTries> {
  const rows = await rowsOf<{ started_at: Date; problem: string | null; stage: string }>(
    queries,
    `select started_at, problem, stage from session_run
     where bearer_id = $1 and started_at > $2 and ended_at is not null and stage <> 'stopped by you'`,
    [bearerId, new Date(nowMs - WITHIN_MS)],
  );
  const weights = rows.map(({ started_at, problem }) => ({
    weight: weightOf((nowMs - started_at.getTime()) / 1000, 6 * FIXED_HALF_LIFE_S),
    held: problem === null,
  }));
  const sum = (held: boolean) => weights.reduce((all, one) => all + (one.held === held ? one.weight : 0), 0);
  return {
    answered: weights.filter(({ held }) => held).length,
    unanswered: weights.filter(({ held }) => !held).length,
    weight: { answered: sum(true), unanswered: sum(false) },
    lasting: { answered: sum(true), unanswered: sum(false) },
  };
}
