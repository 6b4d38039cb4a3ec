import { FIXED_HALF_LIFE_S, stillThere, weightOf, type Heard } from '@tombolo/core';
import { OWN_TRIES_DAYS } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt, msOfId } from '../store/moments';

/** What came of our own tries that asked for an answer: whole counts, and what they weigh by now. */
export interface OwnTries {
  readonly answered: number;
  readonly unanswered: number;
  /** Of those that were not, so many fell into a silence: whoever was off then answers others all the same. */
  readonly inSilence: number;
  readonly weight: { readonly answered: number; readonly unanswered: number };
  /**
   * What they weigh of the other end: who does not answer texts stays so for longer than the air stays as it is. Not answered are those since
   * the last that was, by whatever path.
   */
  readonly lasting: { readonly answered: number; readonly unanswered: number };
  /** Not answered since they were heard last, and not in `lasting`: they tell as well that somebody who is heard steadily is away now. */
  readonly sinceHeard: number;
}

export const NO_TRIES: OwnTries = {
  answered: 0,
  unanswered: 0,
  inSilence: 0,
  weight: { answered: 0, unanswered: 0 },
  lasting: { answered: 0, unanswered: 0 },
  sinceHeard: 0,
};

const DAY_S = 86_400;
/** A set that acknowledges goes on doing so until somebody changes it (common practice, no source). */
const LASTING_HALF_LIFE_S = 7 * DAY_S;
const WITHIN_MS = 1000 * OWN_TRIES_DAYS * DAY_S;
/** Kinds of evidence that answer a try. */
const ANSWERS = ['accepted', 'handed on', 'delivered', 'answered'];
/** So long an answer may still come to the last try. */
const STILL_OPEN_MS = 60_000;

/** Silence is looked for so long before and after a try. */
export const AROUND_MS = 3 * 3_600_000;

/** Of tries over one path to one address. */
export const triesKey = (address: string, path: readonly string[]): string => [address, ...path].join('>');

/** Tries over one bearer to some addresses, and when whoever they went to was heard before and after those that were not answered. */
export const triedOf = (
  queries: Queries,
  bearerId: string,
  addresses: readonly string[],
  nowMs: number,
): Promise<TriedRow[]> =>
  rowsOf<TriedRow>(
    queries,
    `select t.*, before.id as heard_before, after.id as heard_after
     from (
       select l.to_call, l.detail->>'node' as node, l.path, l.created_at, max(e.at) filter (where e.kind = 'sent') as last,
              (count(*) filter (where e.kind = 'sent'))::int as sent, bool_or(e.kind = any($4)) as answered
       from leg l join evidence e on e.leg_id = l.id
       where l.bearer_id = $1 and l.created_at > $2 and l.created_at < $5 and l.role = 'convey' and l.acknowledgement_asked
         and (l.to_call = any($3) or l.detail->>'node' = any($3))
       group by l.id having count(*) filter (where e.kind = 'sent') > 0
     ) t
     cross join lateral (select ((extract(epoch from t.created_at) * 1000)::bigint << 21) as id) began
     left join lateral (
       select p.id from packet p where not t.answered and t.node is null and p.source = t.to_call
         and p.id between began.id - $6 and began.id order by p.id desc limit 1
     ) before on true
     left join lateral (
       select p.id from packet p where not t.answered and t.node is null and p.source = t.to_call
         and p.id between began.id and least(began.id + $6, $7) order by p.id limit 1
     ) after on true`,
    [
      bearerId,
      new Date(nowMs - WITHIN_MS),
      addresses,
      ANSWERS,
      new Date(nowMs),
      firstIdAt(AROUND_MS),
      firstIdAt(nowMs),
    ],
  );

/** One transmission that asked for an answer, with how often it was sent. */
export interface TriedRow {
  readonly to_call: string;
  readonly node: string | null;
  readonly path: string[];
  readonly created_at: Date;
  readonly sent: number;
  readonly last: Date;
  readonly answered: boolean;
  /** Packets of theirs around one that was not answered; null where none was heard for some hours. */
  readonly heard_before: string | null;
  readonly heard_after: string | null;
}

/** How steadily somebody is heard; null where that is not known. */
export type Habit = Omit<Heard, 'silentS'> | null;

/** Chance that somebody was there when something was sent to them, by how long they were silent then. */
function wasThere({ created_at, heard_before, heard_after }: TriedRow, habit: Habit, nowMs: number): number {
  if (habit === null) return 1;
  const atMs = created_at.getTime();
  const fromMs = heard_before === null ? atMs - AROUND_MS : msOfId(heard_before);
  const toMs = heard_after === null ? Math.min(nowMs, atMs + AROUND_MS) : msOfId(heard_after);
  return stillThere({ ...habit, silentS: (toMs - fromMs) / 1000 });
}

/** What they come to, by address and path. */
export function triesIn(
  rows: readonly TriedRow[],
  addresses: readonly string[],
  nowMs: number,
  habit: Habit = null,
): ReadonlyMap<string, OwnTries> {
  const tries = new Map<string, OwnTries>();
  const whomOf = ({ node, to_call }: TriedRow) => (node !== null && addresses.includes(node) ? node : to_call);
  const lastAnswered = new Map<string, number>();
  for (const row of rows)
    if (row.answered)
      lastAnswered.set(whomOf(row), Math.max(row.created_at.getTime(), lastAnswered.get(whomOf(row)) ?? -Infinity));
  for (const row of rows) {
    const address = triesKey(whomOf(row), row.path);
    const before = tries.get(address) ?? NO_TRIES;
    const open = !row.answered && nowMs - row.last.getTime() < STILL_OPEN_MS ? 1 : 0;
    const answered = row.answered ? 1 : 0;
    const unanswered = row.sent - answered - open;
    const ageS = (nowMs - row.created_at.getTime()) / 1000;
    const weight = weightOf(ageS, FIXED_HALF_LIFE_S);
    const lasting = weightOf(ageS, LASTING_HALF_LIFE_S);
    const there = row.answered ? 1 : wasThere(row, habit, nowMs);
    const goesOn =
      !row.answered && habit !== null && row.heard_after === null && nowMs - row.created_at.getTime() < AROUND_MS;
    // Who answered since, by whatever path, does answer: what was not answered before failed on the way, or while they were off.
    const tells = row.created_at.getTime() > (lastAnswered.get(whomOf(row)) ?? -Infinity);
    tries.set(address, {
      answered: before.answered + answered,
      unanswered: before.unanswered + unanswered,
      inSilence: before.inSilence + (there < 0.5 ? unanswered : 0),
      weight: {
        answered: before.weight.answered + weight * answered,
        unanswered: before.weight.unanswered + weight * there * unanswered,
      },
      lasting: {
        answered: before.lasting.answered + lasting * answered,
        unanswered: before.lasting.unanswered + (goesOn || !tells ? 0 : lasting * there * unanswered),
      },
      sinceHeard: before.sinceHeard + (goesOn ? lasting * unanswered : 0),
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
    inSilence: 0,
    weight: { answered: sum(true), unanswered: sum(false) },
    lasting: { answered: sum(true), unanswered: sum(false) },
    sinceHeard: 0,
  };
}
