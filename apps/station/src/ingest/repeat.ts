import { ownStation, transmitLocks, type Settings } from '@tombolo/contract';
import { fillInPath } from '@tombolo/core';
import type { Stored } from './store-heard';
import { rowsOf, type Queries } from '../store/database';
import type { NewEvent } from '../store/events';
import { addEvidence } from '../store/evidence';
import { queueByItself, settle } from '../transmissions/write';

/** Later than this nobody waits for it any more, and the sender may be trying again. */
const VALID_MS = 10_000;

/** More than this cannot go out before they are too old. */
const MOST_WAITING = 20;

/**
 * Repeats for others what is for a fill-in: once for all its copies, which are joined for 30 s, and only what was heard live. What is held back
 * is left to whoever repeats it first.
 */
export async function repeatForOthers(
  queries: Queries,
  stored: readonly Stored[],
  settings: Settings,
  nowMs: number,
): Promise<NewEvent[]> {
  const { repeating } = settings;
  const own = ownStation(settings);
  if (!repeating || own === null || settings.heldSince !== null || transmitLocks(settings).length > 0) return [];
  let room: number | null = null;
  const events: NewEvent[] = [];
  for (const { understood, packetId, isNewPacket } of stored) {
    const { heard, outer } = understood;
    if (!outer || packetId === null || heard.importId !== null || heard.bearerId !== repeating.bearerId) continue;
    if (!isNewPacket) {
      if (repeating.holdBackS > 0) events.push(...(await leaveTo(queries, packetId, outer.path, nowMs)));
      continue;
    }
    if (nowMs - heard.heardAtMs > VALID_MS) continue;
    const path = fillInPath(outer, own);
    if (!path) continue;
    room ??= MOST_WAITING - (await waitingRepeats(queries, repeating.bearerId));
    // So many more would be too late anyway.
    if (room-- <= 0) break;
    const id = await queueByItself(
      queries,
      {
        role: 'answer',
        bearerId: repeating.bearerId,
        fromCall: outer.source,
        toCall: outer.source,
        path: path.map(({ call }) => call),
        info: outer.info,
        policy: { ...settings.retry, tries: 1, until: new Date(heard.heardAtMs + VALID_MS).toISOString() },
        detail: { repeats: { packetId, destination: outer.destination, path } },
      },
      {
        at: new Date(heard.heardAtMs),
        dueAt: new Date(heard.heardAtMs + repeating.holdBackS * 1000),
        by: own,
        note: `repeated for ${outer.source}, as a fill-in`,
      },
    );
    events.push({ type: 'transmission', data: { id } });
  }
  return events;
}

async function waitingRepeats(queries: Queries, bearerId: string): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    queries,
    `select count(*)::int as n from leg where bearer_id = $1 and item_id is null and next_at is not null and detail ? 'repeats'`,
    [bearerId],
  );
  return row?.n ?? 0;
}

/** Somebody else passed it on while we held it back. */
async function leaveTo(
  queries: Queries,
  packetId: string,
  path: readonly { readonly call: string; readonly used: boolean }[],
  nowMs: number,
): Promise<NewEvent[]> {
  const by = path.filter(({ used }) => used).at(-1)?.call;
  if (by === undefined) return [];
  const waiting = await rowsOf<{ id: string; bearer_id: string }>(
    queries,
    `select id, bearer_id from leg where item_id is null and next_at is not null and detail->'repeats'->>'packetId' = $1
       and (lease_until is null or lease_until < $2) for update`,
    [packetId, new Date(nowMs)],
  );
  for (const { id, bearer_id } of waiting) {
    await addEvidence(queries, {
      key: `left out:${id}`,
      itemId: null,
      legId: id,
      kind: 'left out',
      at: new Date(nowMs),
      bearer: bearer_id,
      by,
      note: `${by} repeated it first`,
    });
    await settle(queries, id);
  }
  return waiting.map(({ id }) => ({ type: 'transmission', data: { id } }));
}
