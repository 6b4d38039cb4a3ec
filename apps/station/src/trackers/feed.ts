import { Readable } from 'node:stream';
import { trackerReport, type TrackerReport } from '@tombolo/contract';
import { fail, ok, type Parsed } from '@tombolo/core';
import { z } from 'zod';

const WITHIN_MS = 10_000;
const MOST_OCTETS = 1_000_000;
const MOST_UNITS = 500;
/** A clock that is so far ahead is wrong. */
const AHEAD_MS = 5 * 60_000;
/** Whoever tells of a time before the first trackers tells nothing. */
const EARLIEST_MS = Date.UTC(2000, 0, 1);

/** A feature of the feed: a point (RFC 7946, §3.1.2) with our properties (docs/formats.md). */
const feature = z
  .object({
    type: z.literal('Feature'),
    geometry: z.object({ type: z.literal('Point'), coordinates: z.array(z.number()).min(2).max(3) }),
    properties: z.object({
      unit: z.union([z.string(), z.number()]).transform(String),
      time: z.string(),
      battery: z.number().nullish(),
      emergency: z.boolean().nullish(),
    }),
  })
  .transform(({ geometry: { coordinates }, properties: { unit, time, battery, emergency } }) => ({
    unit,
    latitude: coordinates[1]!,
    longitude: coordinates[0]!,
    at: time,
    batteryPercent: battery ?? null,
    emergency: emergency ?? false,
  }))
  .pipe(trackerReport);
const collection = z.object({ type: z.literal('FeatureCollection'), features: z.array(z.unknown()) });

export interface FeedAnswer {
  /** The latest report of each unit. */
  readonly reports: readonly TrackerReport[];
  /** Units that could not be understood, in words; empty for none. */
  readonly faults: readonly string[];
}

/** Reads an answer of the feed; what one unit says wrong costs no other. */
export function readFeed(text: string, nowMs: number): Parsed<FeedAnswer> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return fail(0, text.trim() === '' ? 'the feed answered nothing' : 'the feed did not answer with JSON');
  }
  const read = collection.safeParse(json);
  if (!read.success) return fail(0, 'the feed did not answer with a FeatureCollection of GeoJSON');
  const latest = new Map<string, TrackerReport>();
  const faults: string[] = [];
  for (const [n, one] of read.data.features.slice(0, MOST_UNITS).entries()) {
    const parsed = feature.safeParse(one);
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      faults.push(`unit ${n + 1}: ${issue!.path.join('.')}: ${issue!.message}`);
      continue;
    }
    const atMs = Date.parse(parsed.data.at);
    if (atMs < EARLIEST_MS || atMs > nowMs + AHEAD_MS) {
      faults.push(`${parsed.data.unit}: its time, ${parsed.data.at}, cannot be right`);
      continue;
    }
    const before = latest.get(parsed.data.unit);
    if (!before || Date.parse(before.at) < atMs)
      latest.set(parsed.data.unit, { ...parsed.data, at: new Date(atMs).toISOString() });
  }
  if (read.data.features.length > MOST_UNITS) faults.push(`more than ${MOST_UNITS} units: the rest was left out`);
  return ok({ reports: [...latest.values()], faults });
}

/** Asks a feed: at most so much, for at most so long, and nowhere else than where it is said to be. */
export async function askFeed(url: string): Promise<Parsed<string>> {
  try {
    const answer = await fetch(url, {
      redirect: 'error',
      headers: { accept: 'application/geo+json, application/json' },
      signal: AbortSignal.timeout(WITHIN_MS),
    });
    if (!answer.ok) return fail(0, `the feed answered ${answer.status}`);
    const pieces: Uint8Array[] = [];
    let octets = 0;
    const body: AsyncIterable<Uint8Array> = answer.body ? Readable.fromWeb(answer.body as never) : Readable.from([]);
    for await (const piece of body) {
      octets += piece.length;
      if (octets > MOST_OCTETS) return fail(0, 'the feed answered with more than a megabyte');
      pieces.push(piece);
    }
    return ok(Buffer.concat(pieces).toString('utf8'));
  } catch (error) {
    const late = (error as Error).name === 'TimeoutError';
    return fail(0, late ? 'the feed did not answer within 10 s' : 'the feed cannot be reached');
  }
}
