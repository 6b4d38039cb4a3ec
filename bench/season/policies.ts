import {
  DEFAULT_RETRY,
  MOST_TRIES,
  WORTH_PER_S,
  PACKET_NEEDS_DBM,
  reachOver,
  OUR_END,
  USUAL_END,
  type RetryPolicy,
} from '@tombolo/core';
import { byPacketRadio } from '../../apps/station/src/planning/by-packet-radio';
import { hopsFrom } from '../../apps/station/src/planning/hops';
import { repeatersIn } from '../../apps/station/src/planning/link-rows';
import { leastOfSurest } from '../../apps/station/src/planning/nearly-surest';
import { repeatsIn } from '../../apps/station/src/planning/own-repeats';
import { NO_TRIES, triesIn, triesKey } from '../../apps/station/src/planning/own-tries';
import type { Book } from './book';
import type { World } from './world';

export const OWN = 'QT2AR-7';
export const RETRY: RetryPolicy = DEFAULT_RETRY;
export const TWO_HOPS = ['WIDE1-1', 'WIDE2-1'];

export interface Chosen {
  readonly path: readonly string[];
  /** How often it is sent at most. */
  readonly times: number;
  /** Chance that it is proved; null of who foretells nothing. */
  readonly proven: number | null;
  /** Hops of what is believed, for who wants to know. */
  readonly basis: 'evidence' | 'map' | null;
}
export type Policy = (world: World, book: Book, to: string, text: string, nowMs: number) => Chosen;

/** Always over two digipeaters. */
export const alwaysTwo: Policy = () => ({ path: TWO_HOPS, times: RETRY.tries, proven: null, basis: null });

/** By how the addressee was last heard, as the program advised before it planned. */
export const byLastHeard: Policy = (_, book, to, __, nowMs) => {
  const via = book.lastHeard.get(to);
  const repeatsUs = new Set(book.repeatedRows(nowMs).flatMap(({ by }) => by));
  const path =
    via === undefined
      ? TWO_HOPS
      : via.length === 0
        ? []
        : via.length === 1 && repeatsUs.has(via[0]!)
          ? ['WIDE1-1']
          : TWO_HOPS;
  return { path, times: RETRY.tries, proven: null, basis: null };
};

/** Everybody is placed on one degree, where a kilometre is a kilometre. */
const placeOf = ({ x, y }: { readonly x: number; readonly y: number }) => ({
  latitude: x / 111.2,
  longitude: y / 111.2,
});

/** What the planner of the station proposes, from the book alone. */
export const planner: Policy = (world, book, to, text, nowMs) => {
  const rows = book.rows(nowMs);
  const repeaters = repeatersIn(rows, [OWN, to]);
  const calls = [OWN, ...repeaters, to];
  const places = new Map(calls.map((call) => [call, { position: placeOf(world.of(call)), moves: false }]));
  const margins = new Map(
    calls.flatMap((from) =>
      calls.flatMap((by) => {
        if (from >= by) return [];
        const [a, b] = [world.of(from), world.of(by)];
        const km = Math.hypot(a.x - b.x, a.y - b.y);
        const ground = Array.from({ length: 5 }, (_, n) => ({ distanceKm: (km * n) / 4, groundM: 1 }));
        const [one, other] = [from === OWN ? OUR_END : USUAL_END, by === OWN ? OUR_END : USUAL_END];
        const { receivedDbm, backDbm } = reachOver(ground, one, other, 145);
        const margin = {
          marginDb: receivedDbm - PACKET_NEEDS_DBM,
          marginBackDb: backDbm - PACKET_NEEDS_DBM,
          words: '',
          wordsBack: '',
        };
        return [[`${from}>${by}`, margin] as const];
      }),
    ),
  );
  const neighbourhood = hopsFrom({
    own: OWN,
    nowMs,
    listeningSinceMs: 0,
    rows,
    repeaters,
    targets: [to],
    addressee: to,
    places,
    margins,
  });
  const tries = triesIn(book.triedRows(to, nowMs), [to], nowMs, neighbourhood.habit);
  const { candidates } = byPacketRadio({
    bearerId: 'radio',
    own: OWN,
    to,
    text,
    txDelayMs: 300,
    retry: RETRY,
    deadlineS: null,
    tries: MOST_TRIES,
    worthPerS: WORTH_PER_S,
    queueS: 0,
    load: 0.05,
    neighbourhood,
    triesBy: (path) => tries.get(triesKey(to, path)) ?? NO_TRIES,
    theirHops: book.theirHops.get(to) ?? null,
    repeats: repeatsIn(book.repeatedRows(nowMs), nowMs),
    holder: { name: to, beyond: null },
    far: 'known',
    title: '',
    how: '',
    command: null,
    cautions: [],
  });
  const best = leastOfSurest(candidates, ({ arrives: { chance }, airS }) => ({ chance, airS }));
  const path = best && best.send.way.by === 'packets' ? best.send.way.path : TWO_HOPS;
  const seen =
    best &&
    (best.rests.some(({ heard, inferred }) => heard + inferred > 0) || best.tries.answered + best.tries.unanswered > 0);
  const times = (best?.send.way.by === 'packets' ? best.send.way.times : undefined) ?? RETRY.tries;
  return { path, times, proven: best?.proof?.proven.chance ?? null, basis: seen ? 'evidence' : 'map' };
};
