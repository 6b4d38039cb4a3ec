import type { EntityManager } from 'typeorm';
import { MESSAGE_NUMBERS, messageNumber } from '@tombolo/core';
import { ProblemError } from '../problem-error';
import { otherParts } from '../parts/of-item';
import { PROOF_WINDOW_MS } from '../ingest/own/proof';
import { rowsOf } from '../store/database';
import { ItemEntity, type ItemRow } from '../store/entities';
import { addEvidence } from '../store/evidence';
import { appendEvents } from '../store/events';

/** A number that nothing bears to which an answer may still come. There are 1296 of them. */
export async function nextNumber(manager: EntityManager, at: Date): Promise<string> {
  const rows = await rowsOf<{ number: string }>(
    manager,
    `select coalesce(l.detail->>'number', i.number) as number from leg l join item i on i.id = l.item_id
     where l.role = 'convey' and l.id in (
       select id from leg where next_at is not null
       union select id from leg where created_at > $1
       union select leg_id from attempt where intended_at > $1)`,
    [new Date(at.getTime() - PROOF_WINDOW_MS)],
  );
  const open = new Set(rows.map(({ number }) => number));
  for (let tries = 0; tries < MESSAGE_NUMBERS; tries++) {
    const [row] = await rowsOf<{ n: string }>(manager, `select nextval('message_number') as n`);
    const number = messageNumber(Number(row!.n));
    if (!open.has(number)) return number;
  }
  throw new ProblemError(
    409,
    'no-number',
    'No message number is free',
    `${MESSAGE_NUMBERS} texts of the last hours may still be acknowledged: wait, or send without asking for an acknowledgement.`,
  );
}

/** What we send answers something that arrived: its record says so. */
export async function noteOurAnswer(
  manager: EntityManager,
  answeredId: string,
  reply: ItemRow,
  at: Date,
): Promise<void> {
  const answered = await manager.getRepository(ItemEntity).findOneBy({ id: answeredId, direction: 'in' });
  if (!answered) return;
  await addEvidence(manager, {
    key: `answered by:${reply.id}`,
    itemId: answeredId,
    legId: null,
    kind: 'answered',
    at,
    by: reply.sender,
    note: reply.body,
  });
  const changed = [answeredId, ...(await otherParts(manager, answered))];
  await appendEvents(
    manager,
    changed.map((id) => ({ type: 'item', data: { id } })),
    at,
  );
}
