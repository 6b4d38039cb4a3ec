import { Router } from 'express';
import { routes, type Alarm, type Watch } from '@tombolo/contract';
import { thresholdInWords, type Threshold } from '@tombolo/core';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { nameOfQuantity, readingsOf } from '../../readings/readings';
import { judgeWatches } from '../../ingest/derived/alarms';
import { rowsOf } from '../../store/database';
import { appendEvents, type NewEvent } from '../../store/events';
import { serve } from '../serve';

interface WatchRow {
  id: string;
  call: string;
  quantity: string;
  threshold: Threshold;
  enabled: boolean;
  raised: boolean;
  created_at: Date;
}
interface AlarmRow {
  id: string;
  call: string;
  words: string;
  at: Date;
  packet_id: string | null;
  seen_at: Date | null;
  kind: Alarm['kind'];
  drill: boolean;
  taken_by: string | null;
  ended_at: Date | null;
}

const MOST_ALARMS = 200;

/** What stations are watched for, and the alarms that came of it. */
export function watchRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const now = () => new Date(context.now());
  const tell = (events: NewEvent[]) => database.transaction((manager) => appendEvents(manager, events, now()));

  serve(router, routes.watches, async () => {
    const rows = await rowsOf<WatchRow>(database, 'select * from watch order by created_at desc');
    return Promise.all(rows.map(view));
  });
  serve(router, routes.addWatch, async ({ body: wanted }) => {
    await rowsOf(
      database,
      `insert into watch (id, call, quantity, threshold, enabled, created_at) values ($1, $2, $3, $4, true, $5)
       on conflict (id) do nothing`,
      [wanted.id, wanted.call, wanted.quantity, JSON.stringify(wanted.threshold), now()],
    );
    // What is beyond the limit already is said at once.
    await tell([{ type: 'watch', data: {} }, ...(await judgeWatches(database, new Set([wanted.call]), now()))]);
    return one(wanted.id);
  });
  serve(router, routes.changeWatch, async ({ params: { id }, body: { enabled, quantity, threshold } }) => {
    const another = quantity !== undefined || threshold !== undefined;
    await rowsOf(
      database,
      `update watch set enabled = coalesce($2, enabled), quantity = coalesce($3, quantity), threshold = coalesce($4, threshold),
         raised = raised and coalesce($2, enabled) and not $5
       where id = $1`,
      [id, enabled ?? null, quantity ?? null, threshold ? JSON.stringify(threshold) : null, another],
    );
    const watched = await one(id);
    // What is beyond the new limit already is said at once.
    const raised = another ? await judgeWatches(database, new Set([watched.call]), now()) : [];
    await tell([{ type: 'watch', data: {} }, ...raised]);
    return one(id);
  });
  serve(router, routes.removeWatch, async ({ params: { id } }) => {
    await rowsOf(database, 'delete from watch where id = $1', [id]);
    await tell([{ type: 'watch', data: {} }]);
  });
  serve(router, routes.alarms, async () => {
    const rows = await rowsOf<AlarmRow>(database, 'select * from alarm order by at desc, id desc limit $1', [
      MOST_ALARMS,
    ]);
    return rows.map(alarmView);
  });
  serve(router, routes.takeAlarm, async ({ params: { id }, body: { by } }) => {
    // Of two at once the first has it; the other one is told who.
    await rowsOf(
      database,
      'update alarm set taken_by = coalesce(taken_by, $2), seen_at = coalesce(seen_at, $3) where id = $1',
      [id, by, now()],
    );
    return alarmOf(id);
  });
  serve(router, routes.seeAlarm, async ({ params: { id } }) => {
    await rowsOf(database, 'update alarm set seen_at = coalesce(seen_at, $2) where id = $1', [id, now()]);
    return alarmOf(id);
  });

  const alarmOf = async (id: string): Promise<Alarm> => {
    const [row] = await rowsOf<AlarmRow>(database, 'select * from alarm where id = $1', [id]);
    if (!row) throw new ProblemError(404, 'no-such-alarm', 'That alarm does not exist', `There is no alarm ${id}.`);
    await tell([{ type: 'alarm', data: { call: row.call } }]);
    return alarmView(row);
  };

  const one = async (id: string): Promise<Watch> => {
    const [row] = await rowsOf<WatchRow>(database, 'select * from watch where id = $1', [id]);
    if (!row) throw new ProblemError(404, 'no-such-watch', 'That watch does not exist', `There is no watch ${id}.`);
    return view(row);
  };
  const view = async (row: WatchRow): Promise<Watch> => {
    const { unit } = await readingsOf(database, row.call, row.quantity, now());
    return {
      id: row.id,
      call: row.call,
      quantity: row.quantity,
      threshold: row.threshold,
      enabled: row.enabled,
      raised: row.raised,
      createdAt: row.created_at.toISOString(),
      name: await nameOfQuantity(database, row.call, row.quantity),
      words: thresholdInWords(row.threshold, unit),
    };
  };
  return router;
}

const alarmView = (row: AlarmRow): Alarm => ({
  id: row.id,
  call: row.call,
  words: row.words,
  at: row.at.toISOString(),
  packetId: row.packet_id,
  seenAt: row.seen_at?.toISOString() ?? null,
  kind: row.kind,
  drill: row.drill,
  takenBy: row.taken_by,
  endedAt: row.ended_at?.toISOString() ?? null,
});
