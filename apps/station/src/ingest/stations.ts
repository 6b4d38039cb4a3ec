import { COPY_WINDOW_MS, directness } from '@tombolo/core';
import { storable, type Queries } from '../store/database';
import type { Stored } from './store-heard';

/** Of copies inside the window the most direct one says how a station is heard; otherwise the newest. */
function tellsMore(row: Stored, before: Stored): boolean {
  const laterMs = row.understood.heard.heardAtMs - before.understood.heard.heardAtMs;
  if (Math.abs(laterMs) > COPY_WINDOW_MS) return laterMs > 0;
  return directness(row.understood.path!) < directness(before.understood.path!);
}

/**
 * Keeps the station list: for each call the newest reception and the newest position. Derived from
 * receptions and packets; hearing older recordings never overwrites newer facts.
 */
export async function updateStations(queries: Queries, stored: readonly Stored[]): Promise<void> {
  const newest = new Map<string, { heard: Stored; position: Stored | null; firstAtMs: number; lastAtMs: number }>();
  for (const row of stored) {
    const { packet, heard, information } = row.understood;
    if (!packet) continue;
    const hasPosition = information?.kind === 'position';
    const before = newest.get(packet.source);
    if (!before) {
      const { heardAtMs } = heard;
      const position = hasPosition ? row : null;
      newest.set(packet.source, { heard: row, position, firstAtMs: heardAtMs, lastAtMs: heardAtMs });
      continue;
    }
    before.firstAtMs = Math.min(before.firstAtMs, heard.heardAtMs);
    before.lastAtMs = Math.max(before.lastAtMs, heard.heardAtMs);
    if (tellsMore(row, before.heard)) before.heard = row;
    if (hasPosition && heard.heardAtMs >= (before.position?.understood.heard.heardAtMs ?? -Infinity))
      before.position = row;
  }
  if (newest.size === 0) return;
  // Sorted, so that two processes lock rows in the same order.
  const entries = [...newest.entries()].sort(([a], [b]) => (a < b ? -1 : 1));
  const of = <T>(pick: (entry: (typeof entries)[number][1], call: string) => T) =>
    entries.map(([call, entry]) => pick(entry, call));
  const positionOf = (entry: Stored | null) => {
    const information = entry?.understood.information;
    return information?.kind === 'position' ? information : null;
  };
  const columns = `call, first_at, last_at, how_at, how, via, words, bearer_id,
    position_at, latitude, longitude, symbol, course_deg, speed_knots, comment`;
  const newWay = `(excluded.how_at > station.how_at + interval '${COPY_WINDOW_MS} ms' or
    excluded.how_at >= station.how_at - interval '${COPY_WINDOW_MS} ms' and
    array_position(array['direct', 'relayed', 'internet'], excluded.how) < array_position(array['direct', 'relayed', 'internet'], station.how))`;
  const newPosition = `(excluded.position_at is not null and
    (station.position_at is null or excluded.position_at >= station.position_at))`;
  const replace = (when: string, names: readonly string[]) =>
    names.map((name) => `${name} = case when ${when} then excluded.${name} else station.${name} end`).join(', ');
  await queries.query(
    `insert into station (${columns})
     select call, first_at, last_at, how_at, how, case when via = '' then '{}'::text[] else string_to_array(via, ',') end, words, bearer_id,
            position_at, latitude, longitude, symbol, course_deg, speed_knots, comment
     from unnest($1::text[], $2::timestamptz[], $3::timestamptz[], $4::timestamptz[], $5::text[], $6::text[], $7::text[], $8::text[],
                 $9::timestamptz[], $10::float8[], $11::float8[], $12::text[], $13::float8[], $14::float8[], $15::text[])
       as r (${columns})
     on conflict (call) do update set
       first_at = least(station.first_at, excluded.first_at),
       last_at = greatest(station.last_at, excluded.last_at),
       ${replace(newWay, ['how_at', 'how', 'via', 'words', 'bearer_id'])},
       ${replace(newPosition, ['position_at', 'latitude', 'longitude', 'symbol', 'course_deg', 'speed_knots', 'comment'])}`,
    [
      of((_, call) => call),
      of((e) => new Date(e.firstAtMs)),
      of((e) => new Date(e.lastAtMs)),
      of((e) => new Date(e.heard.understood.heard.heardAtMs)),
      of((e) => e.heard.understood.path!.how),
      of((e) => e.heard.understood.path!.via.join(',')),
      of((e) => e.heard.understood.words),
      of((e) => e.heard.understood.heard.bearerId),
      of((e) => (e.position ? new Date(e.position.understood.heard.heardAtMs) : null)),
      of((e) => positionOf(e.position)?.latitude ?? null),
      of((e) => positionOf(e.position)?.longitude ?? null),
      of((e) => {
        const symbol = positionOf(e.position)?.symbol;
        return symbol ? storable(symbol.table + symbol.code) : null;
      }),
      of((e) => positionOf(e.position)?.courseDeg ?? null),
      of((e) => positionOf(e.position)?.speedKnots ?? null),
      of((e) => {
        const comment = positionOf(e.position)?.comment;
        return comment == null ? null : storable(comment.trim());
      }),
    ],
  );
}
