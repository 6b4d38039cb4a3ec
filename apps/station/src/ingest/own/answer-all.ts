import { randomInt } from 'node:crypto';
import { isAskedOf, type Query } from '@tombolo/core';
import type { NewEvent } from '../../store/events';
import type { Queries } from '../../store/database';
import { queueByItself, waitsByItself } from '../../transmissions/write';
import type { Stored } from '../store-heard';
import { answerPath } from './answer-path';
import { ownPosition } from './answer-query';
import type { OwnTrafficContext } from './receive';

/** Who asks all is answered by many: each waits a time of its own, so that they do not all begin at once. (Common practice, no source.) */
const SPREAD_MS = 20_000;

/**
 * Answers a question to every station (Protocol Reference 1.0.1, ch. 15) with our position, where the operator allowed answers and we are in
 * the circle that was asked. It belongs to no item; while one waits it stands for all who ask. Gives what changed.
 */
export async function answerAll(
  queries: Queries,
  row: Stored,
  query: Query,
  own: string,
  { settings, position, answerBearer, usualPath }: OwnTrafficContext,
): Promise<NewEvent[]> {
  const { heard, packet } = row.understood;
  // A plain position would say that no help is needed any more.
  if (settings.emergency || !settings.answerQueries || heard.importId !== null || !isAskedOf(query, position))
    return [];
  const bearerId = answerBearer(heard.bearerId);
  const info = ownPosition({ position, symbol: settings.symbol });
  if (bearerId === null || !info || (await waitsByItself(queries, 'answer', bearerId))) return [];
  const at = new Date(heard.heardAtMs);
  const id = await queueByItself(
    queries,
    {
      role: 'answer',
      bearerId,
      fromCall: own,
      toCall: packet!.source,
      path: await answerPath(queries, row, usualPath(bearerId)),
      info,
      policy: { ...settings.retry, tries: 1 },
    },
    {
      at,
      dueAt: new Date(heard.heardAtMs + randomInt(SPREAD_MS)),
      by: own,
      note: `our position, which ${packet!.source} asked ${query.footprint ? `all within ${query.footprint.radiusMi} miles` : 'everybody'} for`,
    },
  );
  return [{ type: 'transmission', data: { id } }];
}
