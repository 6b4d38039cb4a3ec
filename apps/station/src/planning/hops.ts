import {
  aboutTime,
  beliefOf,
  believed,
  betaQuantile,
  chanceOfMargin,
  FIXED_HALF_LIFE_S,
  meanOf,
  MOVING_HALF_LIFE_S,
  stillThere,
  weighed,
  type Belief,
  type HopLink,
  type HourSeen,
  type Position,
} from '@tombolo/core';
import type { RestsOn } from '@tombolo/contract';
import type { StationState } from '../ingest/derived/sighting';
import { rowsOf, type Queries } from '../store/database';
import type { MapReach } from './map-reach';

/** What is known of one directed hop, with what it rests on. */
export interface Hop extends HopLink {
  readonly rests: RestsOn;
}

export interface Neighbourhood {
  readonly hops: readonly Hop[];
  /** Who was seen repeating packets of others, and may carry ours. */
  readonly repeaters: readonly string[];
  /** Who may be off, in words. */
  readonly silences: readonly string[];
}

const HOUR_MS = 3_600_000;
const WITHIN_MS = 48 * HOUR_MS;
const MOST_LINKS = 4000;
/** More that repeat are not needed for a way of two hops. */
const MOST_REPEATERS = 8;
/** Before anything was heard and where no place is known: as if of two tries so many had succeeded (common practice, no source). */
const UNKNOWN = { chance: 0.3, strength: 2 };
const MAP_STRENGTH = 2;
/** What the map gives no more than this is no way; and no link is surer by it, for a set may be off or the channel taken (common practice, no source). */
const LEAST_BY_MAP = 0.02;
const MOST_BY_MAP = 0.9;
/** Of stations that are not heard by us only successes are known: together they count for no more than so many tries. */
const MOST_UNCHECKED = 8;
const NOTHING = { successes: 0, failures: 0 };
const MOVING_KNOTS = 1;

interface LinkRow {
  from_call: string;
  by_call: string;
  count: number;
  first_count: number;
  hours: Record<string, readonly [number, number, number]>;
  first_at: Date;
  last_at: Date;
}

/** The hops between us, those who repeat, and one addressee, in both directions. */
export async function hopsAbout(
  queries: Queries,
  about: {
    readonly own: string;
    readonly ownPosition: Position | null;
    readonly to: string;
    readonly nowMs: number;
    readonly mapReach: MapReach;
    /** Since when our receiver is known to work, ms; null when it does not. */
    readonly listeningSinceMs: number | null;
  },
): Promise<Neighbourhood> {
  const { own, to, nowMs, listeningSinceMs } = about;
  const rows = await rowsOf<LinkRow>(
    queries,
    `select from_call, by_call, count, first_count, hours, first_at, last_at from heard_link
     where last_at > $1 order by last_at desc limit ${MOST_LINKS}`,
    [new Date(nowMs - WITHIN_MS)],
  );
  // What was heard of a station and was not its own packet, it repeated.
  const repeaters = [...new Set(rows.flatMap((row) => (row.count > row.first_count ? [row.from_call] : [])))]
    .filter((call) => call !== own && call !== to)
    .slice(0, MOST_REPEATERS);
  const links = new Map(rows.map((row) => [`${row.from_call}>${row.by_call}`, row]));
  const places = await placesOf(queries, [...repeaters, to]);
  if (about.ownPosition) places.set(own, { position: about.ownPosition, moves: false });
  const nodes = [...new Set([own, ...repeaters, to])];
  const pairs = nodes.flatMap((from) => nodes.flatMap((by) => (from === by ? [] : [[from, by] as const])));
  const margins = await about.mapReach(
    pairs.flatMap(([from, by]) => {
      const [a, b] = [places.get(from), places.get(by)];
      const ours = from === own ? 'from' : by === own ? 'to' : null;
      return from < by && a && b ? [{ key: `${from}>${by}`, from: a.position, to: b.position, ours }] : [];
    }),
  );
  // Of an addressee of whom nothing is known one repeater is as good as another: the one that is heard most stands for all.
  const unknown = !places.has(to) && !rows.some((row) => row.from_call === to || row.by_call === to);
  const silent = new Map(
    nodes.map((node) => [node, node === own ? HERE : silenceOf(node, rows, listeningSinceMs, nowMs)]),
  );
  const hops = pairs.flatMap(([from, by]): Hop[] => {
    const there = links.get(`${from}>${by}`);
    const back = links.get(`${by}>${from}`);
    const map = margins.get(from < by ? `${from}>${by}` : `${by}>${from}`) ?? null;
    const unheard = !there && !back;
    // Of two places that nobody has heard from nothing is guessed but a hop to whom it is for.
    if (unheard && map === null && from !== to && by !== to) return [];
    if (unheard && unknown && [from, by].some((end) => repeaters.indexOf(end) > 0)) return [];
    const byMap = map && chanceOfMargin(from < by ? map.marginDb : map.marginBackDb);
    const before = byMap === null ? UNKNOWN : { chance: Math.min(MOST_BY_MAP, byMap), strength: MAP_STRENGTH };
    if (unheard && before.chance < LEAST_BY_MAP) return [];
    const halfLifeS = places.get(from)?.moves || places.get(by)?.moves ? MOVING_HALF_LIFE_S : FIXED_HALF_LIFE_S;
    const seen = (row: LinkRow | undefined) => {
      // What became of our own packets is known try by try.
      if (!row || row.from_call === own) return NOTHING;
      const all = weighed(hoursOf(row), nowMs, halfLifeS);
      // Only what we hear ourselves can be missed.
      return row.by_call === own ? all : { ...all, successes: Math.min(MOST_UNCHECKED, all.successes) };
    };
    const ends = [silent.get(from)!, silent.get(by)!];
    const belief = ends.reduce(
      (sum, end) => ifThere(sum, end.chance),
      believed(beliefOf(before.chance, before.strength), seen(there), seen(back)),
    );
    const silence = ends.flatMap(({ words }) => (words === null ? [] : [words])).join(' ') || null;
    return [
      {
        from,
        to: by,
        belief,
        rests: restsOf(
          from,
          by,
          belief,
          there,
          back,
          before.chance,
          (from < by ? map?.words : map?.wordsBack) ?? null,
          silence,
        ),
      },
    ];
  });
  return { hops, repeaters, silences: [...silent.values()].flatMap(({ words }) => words ?? []) };
}

const hoursOf = ({ hours }: LinkRow): HourSeen[] =>
  Object.entries(hours).map(([hour, [heard, inferred, missed]]) => ({
    atMs: Number(hour) * HOUR_MS,
    heard,
    inferred,
    missed,
  }));

/** A chance, and between what it lies in nine of ten cases. */
export const spreadOfBelief = (belief: Belief): RestsOn['chance'] => ({
  chance: meanOf(belief),
  low: betaQuantile(belief, 0.05),
  high: betaQuantile(belief, 0.95),
});

function restsOf(
  from: string,
  to: string,
  belief: Belief,
  there: LinkRow | undefined,
  back: LinkRow | undefined,
  chance: number,
  words: string | null,
  silence: string | null,
): RestsOn {
  const sum = (row: LinkRow | undefined, n: 0 | 1 | 2) =>
    row ? Object.values(row.hours).reduce((all, counts) => all + counts[n], 0) : 0;
  const last = [there, back].flatMap((row) => (row && row.count > 0 ? [row.last_at] : [])).sort((a, b) => +b - +a)[0];
  return {
    from,
    to,
    chance: spreadOfBelief(belief),
    heard: sum(there, 0),
    inferred: sum(there, 1),
    missed: sum(there, 2),
    heardBack: sum(back, 0) + sum(back, 1),
    missedBack: sum(back, 2),
    lastAt: last?.toISOString() ?? null,
    silence,
    ours: null,
    before: { chance, words: words ?? 'A guess: the place of one of them is not known.' },
  };
}

interface Silence {
  readonly chance: number;
  readonly words: string | null;
}
const HERE: Silence = { chance: 1, words: null };
/** What was heard so much later came without it. */
const QUIET_MS = 60_000;
/** Less is not worth a word. */
const WORTH_A_WORD = 0.9;
/** What is only believed because nothing was heard counts for no more tries than this: the next packet changes it. */
const MOST_WHILE_SILENT = 4;

/** Whether somebody is still there, by how steadily it was heard in the last hours. */
function silenceOf(call: string, rows: readonly LinkRow[], listeningSinceMs: number | null, nowMs: number): Silence {
  const own = rows.filter((row) => row.from_call === call && row.count > 0);
  // Who does not listen cannot tell who is silent.
  if (own.length === 0 || listeningSinceMs === null) return HERE;
  const lastMs = Math.max(...own.map(({ last_at }) => last_at.getTime()));
  const sinceHour = Math.floor(lastMs / HOUR_MS) - 2;
  // Of several who heard it the one that did so most: copies are one packet.
  const heard = own.map((row) => ({
    count: hoursOf(row).reduce(
      (sum, hour) => sum + (hour.atMs >= sinceHour * HOUR_MS ? hour.heard + hour.inferred : 0),
      0,
    ),
    overS: (lastMs - Math.max(row.first_at.getTime(), sinceHour * HOUR_MS)) / 1000,
  }));
  const most = heard.reduce((best, one) => (one.count > best.count ? one : best));
  const silentS = (nowMs - Math.max(lastMs, listeningSinceMs)) / 1000;
  const chance = stillThere({ ...most, silentS });
  if (chance >= WORTH_A_WORD) return { chance, words: null };
  const others = rows.some((row) => row.count > 0 && row.last_at.getTime() > lastMs + QUIET_MS);
  return {
    chance,
    words: `${call} was heard every ${aboutTime(most.overS / most.count)} and is silent for ${aboutTime(silentS)}: it may be off${others ? '' : ', or nothing is heard here any more'}.`,
  };
}

/** What is believed of a hop when one of its ends may be off. */
function ifThere(belief: Belief, chance: number): Belief {
  if (chance >= 1) return belief;
  return beliefOf(meanOf(belief) * chance, Math.min(belief.alpha + belief.beta, MOST_WHILE_SILENT));
}

interface Place {
  readonly position: Position;
  readonly moves: boolean;
}

async function placesOf(queries: Queries, calls: readonly string[]): Promise<Map<string, Place>> {
  const rows = await rowsOf<{ state: StationState }>(queries, 'select state from station where call = any($1)', [
    calls,
  ]);
  return new Map(
    rows.flatMap(({ state: { call, latitude, longitude, speedKnots } }): [string, Place][] =>
      latitude === null || longitude === null
        ? []
        : [[call, { position: { latitude, longitude }, moves: (speedKnots ?? 0) > MOVING_KNOTS }]],
    ),
  );
}
