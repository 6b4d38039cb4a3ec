import {
  beliefByMap,
  beliefOf,
  believed,
  chanceByMap,
  FIXED_HALF_LIFE_S,
  LEAST_BY_MAP,
  MOVING_HALF_LIFE_S,
  parseStationCall,
  weighed,
  withPassedOver,
  type HopLink,
  type HourSeen,
  type Position,
  type Weighed,
} from '@tombolo/core';
import type { RestsOn } from '@tombolo/contract';
import type { StationState } from '../ingest/derived/station-state';
import { rowsOf, type Queries } from '../store/database';
import { hoursListened, hoursOf, linksOfTwoDays, repeatersIn, type LinkRow } from './link-rows';
import type { MapMargin, MapReach } from './map-reach';
import { restsOf } from './rests';
import type { Habit } from './own-tries';
import { habitOf, HERE, ifThere, silenceOf } from './who-is-silent';

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
  /** Chance that the addressee is still there, which is not in its hops: whatever goes wrong by it does so for every try. */
  readonly addresseeThere: number;
  /** How steadily the addressee is heard; null where that is not known. */
  readonly habit: Habit;
}

/** Before anything was heard and where no place is known: as if of two tries so many had succeeded (common practice, no source). */
export const UNKNOWN = { chance: 0.3, strength: 2 };
/** Of stations that are not heard by us only successes are known: together they count for no more than so many tries. */
const MOST_UNCHECKED = 8;
const NOTHING = { successes: 0, failures: 0 };
const MOVING_KNOTS = 1;

interface Surroundings {
  readonly own: string;
  readonly ownPosition: Position | null;
  readonly nowMs: number;
  readonly mapReach: MapReach;
  /** Since when our receiver is known to work, ms; null when it does not. */
  readonly listeningSinceMs: number | null;
}

/** The hops between us, those who repeat, and one addressee, in both directions. */
export async function hopsAbout(
  queries: Queries,
  { to, ...about }: Surroundings & { readonly to: string },
): Promise<Neighbourhood> {
  const rows = await linksOfTwoDays(queries, about.nowMs);
  // An addressee that repeats is reached and not gone over.
  return hopsAmong(queries, about, rows, repeatersIn(rows, [about.own, to]), [to], to);
}

/** The hops between us, those who repeat, and everybody that was heard or is asked for, up to so many; calls that are no stations are left out. */
export async function hopsOfNet(
  queries: Queries,
  about: Surroundings,
  wanted: readonly string[],
  most: number,
): Promise<Neighbourhood & { readonly targets: readonly string[] }> {
  const rows = await linksOfTwoDays(queries, about.nowMs);
  const heard = rows.flatMap(({ from_call, by_call }) => [from_call, by_call]);
  const targets = [...new Set([...wanted, ...heard])]
    .filter((call) => call !== about.own && parseStationCall(call).ok)
    .slice(0, most);
  const among = await hopsAmong(queries, about, rows, repeatersIn(rows, [about.own]), targets);
  return { ...among, targets };
}

async function hopsAmong(
  queries: Queries,
  { ownPosition, mapReach, ...about }: Surroundings,
  rows: readonly LinkRow[],
  repeaters: readonly string[],
  targets: readonly string[],
  addressee: string | null = null,
): Promise<Neighbourhood> {
  const { own } = about;
  const places = await placesOf(queries, [...repeaters, ...targets]);
  if (ownPosition) places.set(own, { position: ownPosition, moves: false });
  const margins = await mapReach(
    pairsOf(own, repeaters, targets).flatMap(([from, by]) => {
      const [a, b] = [places.get(from), places.get(by)];
      const ours = from === own ? 'from' : by === own ? 'to' : null;
      return from < by && a && b ? [{ key: `${from}>${by}`, from: a.position, to: b.position, ours }] : [];
    }),
  );
  return hopsFrom({ ...about, rows, repeaters, targets, places, margins, addressee });
}

/** Who may carry for whom: two that are only wanted carry nothing for each other. */
function pairsOf(own: string, repeaters: readonly string[], targets: readonly string[]): (readonly [string, string])[] {
  const nodes = [...new Set([own, ...repeaters, ...targets])];
  const between = new Set([own, ...repeaters]);
  return nodes.flatMap((from) =>
    nodes.flatMap((by) => (from === by || !(between.has(from) || between.has(by)) ? [] : [[from, by] as const])),
  );
}

/** All that the hops are reckoned from: nothing is asked for here. */
export interface KnownOfHops {
  readonly own: string;
  readonly nowMs: number;
  readonly listeningSinceMs: number | null;
  readonly rows: readonly LinkRow[];
  readonly repeaters: readonly string[];
  readonly targets: readonly string[];
  /** Whether this one is there is told apart from its hops. */
  readonly addressee: string | null;
  readonly places: ReadonlyMap<string, Place>;
  /** What the map says of two, by `one>other` in the order of their names. */
  readonly margins: ReadonlyMap<string, MapMargin>;
}

/** What each hop is worth, from what was heard, missed and passed over, and from the map. */
export function hopsFrom({
  own,
  nowMs,
  listeningSinceMs,
  rows,
  repeaters,
  targets,
  places,
  margins,
  addressee,
}: KnownOfHops): Neighbourhood {
  const links = new Map(rows.map((row) => [`${row.from_call}>${row.by_call}`, row]));
  const nodes = [...new Set([own, ...repeaters, ...targets])];
  const wanted = new Set(targets);
  // Of an addressee of whom nothing is known one repeater is as good as another: the one that is heard most stands for all.
  const heard = new Set(rows.flatMap(({ from_call, by_call }) => [from_call, by_call]));
  const unknown = new Set(targets.filter((to) => !places.has(to) && !heard.has(to)));
  const listening = { own, rows, sinceMs: listeningSinceMs, nowMs, anyHeard: hoursListened(rows, own) };
  const silent = new Map(nodes.map((node) => [node, node === own ? HERE : silenceOf(node, listening)]));
  const told = (from: string, by: string): HourSeen[] => {
    const row = links.get(`${from}>${by}`);
    return row ? hoursOf(row) : [];
  };
  /** The hours of a hop; of a repeater also what it did not repeat of a station, though another one did. */
  const hoursBetween = (from: string, by: string): HourSeen[] =>
    from === own || !repeaters.includes(by)
      ? told(from, by)
      : withPassedOver(
          told(from, by),
          repeaters.filter((one) => one !== by && one !== from).map((one) => told(from, one)),
          told(by, own),
        );
  const weighedOf = (from: string, by: string): Weighed => {
    // What became of our own packets is known try by try.
    if (from === own) return NOTHING;
    const halfLifeS = places.get(from)?.moves || places.get(by)?.moves ? MOVING_HALF_LIFE_S : FIXED_HALF_LIFE_S;
    const all = weighed(hoursBetween(from, by), nowMs, halfLifeS);
    // Only what we hear ourselves is counted packet by packet.
    return by === own
      ? all
      : {
          successes: Math.min(MOST_UNCHECKED, all.successes),
          failures: Math.min(MOST_UNCHECKED, all.failures),
        };
  };
  const hops = pairsOf(own, repeaters, targets).flatMap(([from, by]): Hop[] => {
    const there = links.get(`${from}>${by}`);
    const back = links.get(`${by}>${from}`);
    const map = margins.get(from < by ? `${from}>${by}` : `${by}>${from}`) ?? null;
    const unheard = !there && !back;
    // Of two places that nobody has heard from nothing is guessed but a hop to whom it is for.
    if (unheard && map === null && !wanted.has(from) && !wanted.has(by)) return [];
    if (unheard && [from, by].some((end) => unknown.has(end)) && [from, by].some((end) => repeaters.indexOf(end) > 0))
      return [];
    const byMap = map && chanceByMap(from < by ? map.marginDb : map.marginBackDb);
    const before = byMap === null ? beliefOf(UNKNOWN.chance, UNKNOWN.strength) : beliefByMap(byMap);
    const chanceBefore = byMap ?? UNKNOWN.chance;
    if (unheard && chanceBefore < LEAST_BY_MAP) return [];
    const ends = [from, by].flatMap((end) => (end === addressee ? [] : [silent.get(end)!]));
    const belief = ends.reduce(
      (sum, end) => ifThere(sum, end.chance),
      // A set that is carried is weaker than what it calls.
      believed(before, weighedOf(from, by), weighedOf(by, from), from === own ? 'weaker' : 'like'),
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
          chanceBefore,
          (from < by ? map?.words : map?.wordsBack) ?? null,
          silence,
          missedIn(hoursBetween(from, by)) - missedIn(told(from, by)),
        ),
      },
    ];
  });
  return {
    hops,
    repeaters,
    silences: [...silent.values()].flatMap(({ words }) => words ?? []),
    addresseeThere: addressee === null ? 1 : (silent.get(addressee)?.chance ?? 1),
    habit: addressee === null ? null : habitOf(addressee, listening),
  };
}

const missedIn = (hours: readonly HourSeen[]): number => hours.reduce((sum, { missed }) => sum + missed, 0);

export interface Place {
  readonly position: Position;
  readonly moves: boolean;
}

export async function placesOf(queries: Queries, calls: readonly string[]): Promise<Map<string, Place>> {
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
