import { elementForm, FIXED_HALF_LIFE_S, learned, meanOf, sharedOut, weightOf, type Belief } from '@tombolo/core';
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

/** What every digipeater serves, fill-ins too. */
const ALL_SERVE = 'WIDE1';
/** What high digipeaters alone serve. */
const isForHigh = (asked: string): boolean => /^WIDE[2-7]$/.test(asked);

/** Packets of ours that tell of one digipeater, and those of them that it was heard repeating. */
interface Told {
  readonly elements: readonly string[];
  readonly sent: Packets;
  readonly heard: Packets;
}

/**
 * The hops as a path with that first element finds them: what we sent so, and who repeated it, decides about our own first hop. Who was heard
 * repeating what high digipeaters serve is one, and serves both; of others what they did not repeat of all that asked for anybody limits
 * what is believed for the narrower element too, so that it is never thought to be repeated by more.
 */
export function hopsFor(
  { hops, repeaters }: Pick<Neighbourhood, 'hops' | 'repeaters'>,
  own: string,
  first: string | undefined,
  repeats: OwnRepeats,
): readonly Hop[] {
  if (first === undefined || repeats.sent.size === 0) return hops;
  const asked = askedFor(first);
  const ofAll = [ALL_SERVE].filter((element) => repeats.sent.has(element));
  const ofHigh = [...repeats.sent.keys()].filter(isForHigh);
  return hops.map((hop) => {
    if (hop.from !== own || !repeaters.includes(hop.to)) return hop;
    const back = hops.find((one) => one.from === hop.to && one.to === own)?.belief;
    const toldBy = (elements: readonly string[]) => told(elements, hop.to, repeats);
    const isHigh = ofHigh.some((element) => repeats.repeated.has(`${element}/${hop.to}`));
    if (isHigh && (asked === ALL_SERVE || isForHigh(asked))) return learnt(hop, back, toldBy([...ofAll, ...ofHigh]));
    if (!isForHigh(asked)) return learnt(hop, back, toldBy([asked]));
    const limit = learnt(hop, back, toldBy(ofAll));
    return meanOf(limit.belief) < meanOf(hop.belief)
      ? learnt(limit, back, toldBy(ofHigh), toldBy([...ofAll, ...ofHigh]))
      : learnt(hop, back, toldBy(ofHigh));
  });
}

function told(elements: readonly string[], to: string, { sent, repeated }: OwnRepeats): Told {
  const sum = (packets: ReadonlyMap<string, Packets>, behind: string) =>
    elements
      .map((element) => packets.get(`${element}${behind}`) ?? NONE)
      .reduce((all, one) => ({ count: all.count + one.count, weight: all.weight + one.weight }), NONE);
  return { elements, sent: sum(sent, ''), heard: sum(repeated, `/${to}`) };
}

/** The hop after what is told of it; `shown` is what it is opened to, where that is more. */
function learnt(hop: Hop, back: Belief | undefined, by: Told, shown: Told = by): Hop {
  if (shown.sent.count === 0) return hop;
  const good = Math.min(by.sent.weight, by.heard.weight);
  const lost = by.sent.weight - good;
  // A repeat that we did not hear may have been one all the same.
  const belief = back ? sharedOut({ there: hop.belief, back }, good, lost).there : learned(hop.belief, good, lost);
  const ours = { element: shown.elements.join(' or '), sent: shown.sent.count, repeated: shown.heard.count };
  return { ...hop, belief, rests: { ...hop.rests, ours } };
}
