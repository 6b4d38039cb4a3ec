import { storable, type Queries } from '../store/database';
import type { Stored } from './store-heard';

/**
 * Keeps the station list: for each call the newest reception and the newest position. Derived from
 * receptions and packets; hearing older recordings never overwrites newer facts.
 */
export async function updateStations(queries: Queries, stored: readonly Stored[]): Promise<void> {
  const newest = new Map<string, { heard: Stored; position: Stored | null; firstAtMs: number }>();
  for (const row of stored) {
    const { packet, heard, information } = row.understood;
    if (!packet) continue;
    const hasPosition = information?.kind === 'position';
    const before = newest.get(packet.source);
    if (!before) {
      newest.set(packet.source, { heard: row, position: hasPosition ? row : null, firstAtMs: heard.heardAtMs });
      continue;
    }
    before.firstAtMs = Math.min(before.firstAtMs, heard.heardAtMs);
    // Of the copies of one packet the one heard most directly comes first; only a later packet replaces it.
    const atOf = (entry: Stored | null) => entry?.understood.heard.heardAtMs ?? -Infinity;
    if (row.packetId !== before.heard.packetId && heard.heardAtMs >= atOf(before.heard)) before.heard = row;
    if (hasPosition && heard.heardAtMs >= atOf(before.position)) before.position = row;
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
  await queries.query(
    `insert into station (call, first_at, last_at, how, via, words, bearer_id, position_at, latitude, longitude, symbol, course_deg, speed_knots, comment)
     select call, first_at, last_at, how, case when via = '' then '{}'::text[] else string_to_array(via, ',') end, words, bearer_id,
            position_at, latitude, longitude, symbol, course_deg, speed_knots, comment
     from unnest($1::text[], $2::timestamptz[], $3::timestamptz[], $4::text[], $5::text[], $6::text[], $7::text[], $8::timestamptz[],
                 $9::float8[], $10::float8[], $11::text[], $12::float8[], $13::float8[], $14::text[])
       as r (call, first_at, last_at, how, via, words, bearer_id, position_at, latitude, longitude, symbol, course_deg, speed_knots, comment)
     on conflict (call) do update set
       first_at = least(station.first_at, excluded.first_at),
       last_at = greatest(station.last_at, excluded.last_at),
       how = case when excluded.last_at > station.last_at + interval '30 s' then excluded.how else station.how end,
       via = case when excluded.last_at > station.last_at + interval '30 s' then excluded.via else station.via end,
       words = case when excluded.last_at > station.last_at + interval '30 s' then excluded.words else station.words end,
       bearer_id = case when excluded.last_at > station.last_at + interval '30 s' then excluded.bearer_id else station.bearer_id end,
       position_at = case when newer then excluded.position_at else station.position_at end,
       latitude = case when newer then excluded.latitude else station.latitude end,
       longitude = case when newer then excluded.longitude else station.longitude end,
       symbol = case when newer then excluded.symbol else station.symbol end,
       course_deg = case when newer then excluded.course_deg else station.course_deg end,
       speed_knots = case when newer then excluded.speed_knots else station.speed_knots end,
       comment = case when newer then excluded.comment else station.comment end`.replaceAll(
      'newer',
      `excluded.position_at is not null and (station.position_at is null or excluded.position_at >= station.position_at)`,
    ),
    [
      of((_, call) => call),
      of((e) => new Date(e.firstAtMs)),
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
