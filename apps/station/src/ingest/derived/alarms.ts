import { judge, thresholdInWords, type Threshold } from '@tombolo/core';
import { rowsOf, type Queries } from '../../store/database';
import type { NewEvent } from '../../store/events';
import { nameOfQuantity, readingsOf } from '../../heard/readings';

interface WatchRow {
  id: string;
  call: string;
  quantity: string;
  threshold: Threshold;
  raised: boolean;
}

/** Compares what was just measured with what is watched for; raises alarms and lets them go off. */
export async function judgeWatches(queries: Queries, calls: ReadonlySet<string>, at: Date): Promise<NewEvent[]> {
  if (calls.size === 0) return [];
  const watches = await rowsOf<WatchRow>(
    queries,
    'select id, call, quantity, threshold, raised from watch where enabled and call = any($1) order by id',
    [[...calls]],
  );
  const events: NewEvent[] = [];
  for (const watch of watches) {
    const since = new Date(at.getTime() - Math.max(1, watch.threshold.withinHours) * 3_600_000);
    const { readings, unit, decimals, packetId } = await readingsOf(queries, watch.call, watch.quantity, since);
    const verdict = judge(watch.threshold, readings, watch.raised);
    if (!verdict || verdict.raised === watch.raised) continue;
    await queries.query('update watch set raised = $2 where id = $1', [watch.id, verdict.raised]);
    if (verdict.raised) {
      const what = await nameOfQuantity(queries, watch.call, watch.quantity);
      const changes = watch.threshold.when.endsWith('by');
      const value = `${changes ? 'changed by ' : ''}${verdict.compared.toFixed(decimals)}${unit ? ` ${unit}` : ''}`;
      await queries.query('insert into alarm (watch_id, call, words, at, packet_id) values ($1, $2, $3, $4, $5)', [
        watch.id,
        watch.call,
        `${what} ${value} – ${thresholdInWords(watch.threshold, unit)}`,
        at,
        packetId,
      ]);
    }
    events.push({ type: 'alarm', data: { call: watch.call } });
  }
  return events;
}
