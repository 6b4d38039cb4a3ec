import { Router, json } from 'express';
import { newWatch, watchChange, type Alarm, type Watch } from '@tombolo/contract';
import { thresholdInWords, type Threshold } from '@tombolo/core';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { nameOfQuantity, readingsOf } from '../../heard/readings';
import { judgeWatches } from '../../ingest/derived/alarms';
import { rowsOf } from '../../store/database';
import { appendEvents, type NewEvent } from '../../store/events';
import { read } from '../problem';

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
}

const idParameter = z.object({ id: z.uuid() });
const alarmParameter = z.object({ id: z.string().regex(/^\d{1,18}$/) });
const MOST_ALARMS = 200;

/** What stations are watched for, and the alarms that came of it. */
export function watchRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const now = () => new Date(context.now());
  const tell = (events: NewEvent[]) => database.transaction((manager) => appendEvents(manager, events, now()));

  router.get('/watches', async (_request, response) => {
    const rows = await rowsOf<WatchRow>(database, 'select * from watch order by created_at desc');
    response.json(await Promise.all(rows.map(view)));
  });
  router.post('/watches', json(), async (request, response) => {
    const wanted = read(newWatch, request.body);
    await rowsOf(
      database,
      `insert into watch (id, call, quantity, threshold, enabled, created_at) values ($1, $2, $3, $4, true, $5)
       on conflict (id) do nothing`,
      [wanted.id, wanted.call, wanted.quantity, JSON.stringify(wanted.threshold), now()],
    );
    // What is beyond the limit already is said at once.
    await tell([{ type: 'watch', data: {} }, ...(await judgeWatches(database, new Set([wanted.call]), now()))]);
    response.status(201).json(await one(wanted.id));
  });
  router.patch('/watches/:id', json(), async (request, response) => {
    const { id } = read(idParameter, request.params);
    const { enabled } = read(watchChange, request.body);
    await rowsOf(database, 'update watch set enabled = $2, raised = raised and $2 where id = $1', [id, enabled]);
    await tell([{ type: 'watch', data: {} }]);
    response.json(await one(id));
  });
  router.delete('/watches/:id', async (request, response) => {
    const { id } = read(idParameter, request.params);
    await rowsOf(database, 'delete from watch where id = $1', [id]);
    await tell([{ type: 'watch', data: {} }]);
    response.status(204).end();
  });
  router.get('/alarms', async (_request, response) => {
    const rows = await rowsOf<AlarmRow>(database, 'select * from alarm order by at desc, id desc limit $1', [
      MOST_ALARMS,
    ]);
    response.json(rows.map(alarmView));
  });
  router.post('/alarms/:id/seen', async (request, response) => {
    const { id } = read(alarmParameter, request.params);
    await rowsOf(database, 'update alarm set seen_at = coalesce(seen_at, $2) where id = $1', [id, now()]);
    const [row] = await rowsOf<AlarmRow>(database, 'select * from alarm where id = $1', [id]);
    if (!row) throw new ProblemError(404, 'no-such-alarm', 'That alarm does not exist', `There is no alarm ${id}.`);
    await tell([{ type: 'alarm', data: { call: row.call } }]);
    response.json(alarmView(row));
  });

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
});
