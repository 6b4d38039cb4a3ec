import { fillCommand } from '@tombolo/core';
import type { JoinedService } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { listServices } from './directory';

/** Longer ago, nobody knows whether it still is so. */
const KEPT_MS = 7 * 86_400_000;

/** What was begun at services and not ended since: of each the latest, while its end did not go out after it. */
export async function joinedServices(queries: Queries, nowMs: number): Promise<JoinedService[]> {
  const rows = await rowsOf<{
    address: string;
    command: string;
    values: Record<string, string>;
    at: Date;
    refused: boolean;
  }>(
    queries,
    `select l.detail->'service'->>'address' as address, l.detail->'service'->>'command' as command,
       l.detail->'service'->'values' as values, a.at,
       exists (select 1 from evidence e where e.leg_id = l.id and e.kind = 'refused') as refused
     from leg l join lateral (select max(intended_at) as at from attempt where leg_id = l.id) a on a.at is not null
     where l.detail ? 'service' and l.created_at > $1 order by a.at`,
    [new Date(nowMs - KEPT_MS)],
  );
  const services = await listServices(queries);
  const open = new Map<string, JoinedService>();
  for (const { address, command: id, values, at, refused } of rows) {
    if (refused) continue;
    const service = services.find((one) => one.address === address);
    const command = service?.commands.find((one) => one.id === id);
    if (!service || !command) continue;
    const end = command.leftBy === null ? null : service.commands.find((one) => one.id === command.leftBy);
    // One thing is what the command that ends it takes: the group.
    const ends =
      end ?? service.commands.find((one) => one.id === id && service.commands.some(({ leftBy }) => leftBy === id));
    if (!ends) continue;
    const taken = Object.fromEntries(
      ends.fields.flatMap((field) => (values[field.id] ? [[field.id, values[field.id]!]] : [])),
    );
    const filled = fillCommand(ends, taken);
    if (!filled.ok) continue;
    const key = `${address} ${filled.text}`;
    if (end)
      open.set(key, {
        address,
        leave: ends.id,
        title: ends.title,
        values: filled.values as Record<string, string>,
        since: at.toISOString(),
      });
    else open.delete(key);
  }
  return [...open.values()];
}
