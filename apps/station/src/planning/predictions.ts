import {
  bearerKind,
  MOST_PLANNED_MIN,
  type CalibrationView,
  type Prediction,
  type PredictionsView,
} from '@tombolo/contract';
import { calibrationOf, corrected, FEWEST_TO_JUDGE, seeded, type Judged } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { rowsOf, type Queries } from '../store/database';
import type { Candidate } from './candidate';
import { carriedIn, closedForecasts, type Carried } from './closed-forecasts';
import type { PlanningContext } from './context';
import { correctionsFrom } from './corrections';
import { crossingsTo } from './propose';

interface QueuedLeg {
  id: string;
  tries: number;
  bearer_id: string | null;
  to_call: string;
  node: string | null;
  path: string[];
  body: string;
  until: string | null;
  acknowledgement_asked: boolean;
  created_at: Date;
}

/** What goes to everybody on a channel is proved by nobody. */
const isForAll = ({ bearer_id: id, node }: QueuedLeg, { bearers }: Pick<PlanningContext, 'bearers'>): boolean => {
  const kind = bearers.find((bearer) => bearer.id === id)?.config.kind;
  return node === null && kind !== undefined && bearerKind(kind).sends === 'texts';
};

/** What is handed on is made to fit one text. */
const RELAYED_CHARACTERS = 60;

/**
 * Keeps what is predicted of each transmission of an item, before anything comes of it. What asks for no answer, or goes over a path that is
 * none of the usual ones, is not predicted.
 */
export async function notePredictions(
  database: DataSource,
  context: Omit<PlanningContext, 'queries'>,
  itemIds: readonly string[],
): Promise<void> {
  const legs = await rowsOf<QueuedLeg>(
    database,
    `select l.id, (l.policy->>'tries')::int as tries, l.bearer_id, l.to_call, l.detail->>'node' as node, l.path,
       case when l.detail ? 'relay' then left(i.body, ${RELAYED_CHARACTERS}) else i.body end as body, l.policy->>'until' as until, l.acknowledgement_asked, l.created_at
     from leg l join item i on i.id = l.item_id
     where l.item_id = any($1) and l.role = 'convey' and (i.direction = 'out' or l.detail ? 'relay') and not exists (select 1 from prediction p where p.leg_id = l.id)`,
    [itemIds],
  );
  for (const leg of legs) {
    if (leg.bearer_id === null || isForAll(leg, context)) continue;
    // As of before it was queued: what comes of it must not be known yet.
    const nowMs = leg.created_at.getTime();
    const withinMin = leg.until === null ? null : (Date.parse(leg.until) - nowMs) / 60_000;
    if (withinMin !== null && (withinMin <= 0 || withinMin > MOST_PLANNED_MIN)) continue;
    const address = leg.node ?? leg.to_call;
    const candidates = await crossingsTo(
      { ...context, nowMs, queries: database },
      { to: address, text: leg.body, precedence: 'routine', withinMin },
      { bearerId: leg.bearer_id, address, times: leg.tries },
    );
    const taken = candidates.find(
      ({ send: { way } }) => way.by !== 'packets' || (leg.acknowledgement_asked && way.path.join() === leg.path.join()),
    );
    if (taken?.proof) await keep(database, leg, taken, context);
  }
}

const keep = (
  database: DataSource,
  leg: QueuedLeg,
  { proof, reckoned, rests, tries }: Candidate,
  { bearers, nowMs }: Pick<PlanningContext, 'bearers' | 'nowMs'>,
): Promise<unknown> => {
  const { chance, low, high } = proof!.proven;
  const seen = rests.some(({ heard, inferred }) => heard + inferred > 0) || tries.answered + tries.unanswered > 0;
  const kind = bearers.find(({ id }) => id === leg.bearer_id)?.config.kind ?? '';
  return database.query(
    `insert into prediction (leg_id, at, bearer_kind, proven, low, high, basis, rests, reckoned)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9) on conflict (leg_id) do nothing`,
    [
      leg.id,
      new Date(nowMs),
      kind,
      chance,
      low,
      high,
      seen ? 'evidence' : 'map',
      JSON.stringify(restsInWords(rests, tries)),
      reckoned?.proven?.chance ?? null,
    ],
  );
};

const restsInWords = (rests: Candidate['rests'], { answered, unanswered }: Candidate['tries']): string[] => [
  ...rests.map(
    ({ from, to, chance, heard, inferred, missed }) =>
      `${from} to ${to}: ${Math.round(100 * chance.chance)} of 100, heard ${heard + inferred}, missed ${missed}`,
  ),
  ...(answered + unanswered > 0 ? [`own tries: ${answered} answered, ${unanswered} not`] : []),
];

/** What was predicted of a transmission; null where nothing was. */
export async function predictionsOf(queries: Queries, legIds: readonly string[]): Promise<Record<string, Prediction>> {
  const rows = await rowsOf<{
    leg_id: string;
    at: Date;
    proven: number;
    low: number;
    high: number;
    basis: Prediction['basis'];
    rests: string[];
  }>(queries, 'select * from prediction where leg_id = any($1)', [legIds]);
  return Object.fromEntries(
    rows.map(({ leg_id, at, proven, low, high, basis, rests }) => [
      leg_id,
      { at: at.toISOString(), proven: { chance: proven, low, high }, basis, rests },
    ]),
  );
}

/** The same record gives the same report. */
const SEED = 1973;
/** Chances that show what a correction makes of them. */
const EXAMPLES = [0.1, 0.3, 0.5, 0.7, 0.9];

/** Of whom it is told that theirs came out otherwise: from so many, and so much in log odds (50 of 100 become 62); the first so many. */
const FEWEST_OF_THEIRS = 5;
const LEAST_OF_THEIRS = 0.5;
const MOST_OF_THEIRS = 8;

/** What was predicted against what came of it. */
export async function judgePredictions(queries: Queries, nowMs: number): Promise<PredictionsView> {
  const { closed, open } = await closedForecasts(queries, nowMs);
  const labels = await labelsOf(queries, [...new Set(closed.map(({ to }) => to))]);
  const of = (name: string, some: typeof closed): CalibrationView => ({
    name,
    ...calibrationOf(
      some.map(({ predicted, happened }): Judged => ({ predicted, happened })),
      seeded(SEED),
    ),
  });
  return {
    all: of('all', closed),
    byBearer: carriedIn(closed).map((carried) =>
      of(
        wordsOf(carried),
        closed.filter(({ kind }) => bearerKind(kind).sends === carried),
      ),
    ),
    byBasis: (['evidence', 'map'] as const).map((basis) =>
      of(
        basis,
        closed.filter((row) => row.basis === basis),
      ),
    ),
    corrections: [...correctionsFrom(closed, nowMs)].map(([carried, correction]) => ({
      name: wordsOf(carried),
      examples: EXAMPLES.map((reckoned) => ({ reckoned, told: corrected(reckoned, correction) })),
      theirs: [...correction.theirs]
        .filter(([, { count, shift }]) => count >= FEWEST_OF_THEIRS && Math.abs(shift) >= LEAST_OF_THEIRS)
        .sort(([, a], [, b]) => Math.abs(b.shift) - Math.abs(a.shift))
        .slice(0, MOST_OF_THEIRS)
        .map(([to, { count, expected, happened }]) => ({ to: labels.get(to) ?? to, count, expected, happened })),
    })),
    open,
    enough: FEWEST_TO_JUDGE,
  };
}

/** What nodes of a mesh call themselves, by their number and with it: two may take the same tag. */
async function labelsOf(queries: Queries, to: readonly string[]): Promise<ReadonlyMap<string, string>> {
  const rows = await rowsOf<{ node: string; tag: string }>(
    queries,
    'select node, tag from mesh_node where node = any($1)',
    [to],
  );
  return new Map(rows.map(({ node, tag }) => [node, `${tag} (${node})`]));
}

/** What is carried, for people. */
const wordsOf = (carried: Carried): string =>
  ({ packets: 'packet radio', texts: 'mesh', messages: 'boards', mail: 'mail', nothing: 'nothing' })[carried];
