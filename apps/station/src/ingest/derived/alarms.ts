import { judge, thresholdInWords, type Threshold } from '@tombolo/core';
import { rowsOf, type Queries } from '../../store/database';
import type { NewEvent } from '../../store/events';
import { nameOfQuantity, readingsOf } from '../../readings/readings';

interface WatchRow {
  id: string;
  call: string;
  quantity: string;
  threshold: Threshold;
  raised: boolean;
}

const SELECT = 'select id, call, quantity, threshold, raised from watch where enabled';

/** Compares what was just measured with what is watched for; raises alarms and lets them go off. */
export async function judgeWatches(queries: Queries, calls: ReadonlySet<string>, at: Date): Promise<NewEvent[]> {
  if (calls.size === 0) return [];
  const watches = await rowsOf<WatchRow>(queries, `${SELECT} and call = any($1) order by id for update`, [[...calls]]);
  return judgeAll(queries, watches, at, at);
}

/** Raises the alarms of stations that have fallen silent since `listeningSince`, when this station began to listen. */
export async function judgeSilence(queries: Queries, at: Date, listeningSince: Date): Promise<NewEvent[]> {
  const watches = await rowsOf<WatchRow>(
    queries,
    `${SELECT} and not raised and threshold->>'when' = 'silent for' order by id for update`,
  );
  return judgeAll(queries, watches, at, listeningSince);
}

async function judgeAll(
  queries: Queries,
  watches: readonly WatchRow[],
  at: Date,
  listeningSince: Date,
): Promise<NewEvent[]> {
  const events: NewEvent[] = [];
  const listening = { nowMs: at.getTime(), sinceMs: listeningSince.getTime() };
  for (const watch of watches) {
    const { readings, unit, decimals, packetId } = await readingsOf(
      queries,
      watch.call,
      watch.quantity,
      new Date(at.getTime() - windowMs(watch.threshold)),
    );
    const verdict = judge(watch.threshold, readings, watch.raised, listening);
    if (!verdict || verdict.raised === watch.raised) continue;
    await queries.query('update watch set raised = $2 where id = $1', [watch.id, verdict.raised]);
    if (verdict.raised) {
      const what = await nameOfQuantity(queries, watch.call, watch.quantity);
      const limit = thresholdInWords(watch.threshold, unit);
      const { when } = watch.threshold;
      const value = `${verdict.compared.toFixed(decimals)}${unit ? ` ${unit}` : ''}`;
      const words =
        when === 'silent for'
          ? `${what} – ${limit}`
          : `${what} ${when.endsWith('by') ? 'changed by ' : ''}${value} – ${limit}`;
      await queries.query('insert into alarm (watch_id, call, words, at, packet_id) values ($1, $2, $3, $4, $5)', [
        watch.id,
        watch.call,
        words,
        at,
        packetId,
      ]);
    }
    events.push({ type: 'alarm', data: { call: watch.call } });
  }
  return events;
}

/** How far back the readings go that a threshold needs. */
const windowMs = ({ when, limit, withinHours }: Threshold): number =>
  when === 'silent for' ? limit * 60_000 : Math.max(1, withinHours) * 3_600_000;
