import type { HeardBulletin, Settings } from '@tombolo/contract';
import { bearingBetween, byLine, isBulletinOver, readBulletinLine } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';

/** So far back is looked; announcements are told for days. */
const BACK_MS = 4 * 24 * 3_600_000;
const MOST = 300;

/** Bulletins that were heard in the last days, in the order in which they are read. */
export async function heardBulletins(
  database: DataSource,
  position: Settings['position'],
  now: Date,
): Promise<HeardBulletin[]> {
  const rows = await rowsOf<{
    item: string;
    sender: string;
    addressee: string;
    text: string;
    first_at: Date;
    last_at: Date;
    times: number;
    latitude: number | null;
    longitude: number | null;
  }>(
    database,
    `select i.id as item, i.sender, i.addressee, i.body as text, i.created_at as first_at,
       coalesce(h.last_at, i.created_at) as last_at, coalesce(h.times, 1) as times,
       (s.state->>'latitude')::float8 as latitude, (s.state->>'longitude')::float8 as longitude
     from item i left join bulletin_heard h on h.item_id = i.id left join station s on s.call = i.sender
     where i.kind = 'bulletin' and i.direction = 'in' and not i.refused and i.created_at > $1
     order by coalesce(h.last_at, i.created_at) desc, i.id limit $2`,
    [new Date(now.getTime() - BACK_MS), MOST],
  );
  const latest = new Set<string>();
  const read = rows.flatMap((row) => {
    const line = readBulletinLine(row.addressee);
    if (!line) return [];
    // The last heard come first: the first of a line is what it says now.
    const key = `${row.sender} ${row.addressee}`;
    const replaced = latest.has(key);
    latest.add(key);
    const at =
      row.latitude === null || row.longitude === null ? null : { latitude: row.latitude, longitude: row.longitude };
    const lastAtMs = row.last_at.getTime();
    return [
      {
        ...line,
        item: row.item,
        sender: row.sender,
        text: row.text,
        firstAt: row.first_at.toISOString(),
        lastAt: row.last_at.toISOString(),
        times: row.times,
        distanceKm: position && at ? bearingBetween(position, at).distanceKm : null,
        over: replaced || isBulletinOver(line.sort, lastAtMs, now.getTime()),
        replaced,
        lastAtMs,
      },
    ];
  });
  return read.sort(byLine).map(({ lastAtMs: _, ...bulletin }) => bulletin);
}
