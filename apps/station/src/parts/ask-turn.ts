import { carriageOf, ownStation, type Settings } from '@tombolo/contract';
import { encodeMessage, joinParts, PARTS_WITHIN_MS, readPart, writeAskedAgain, type Part } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { BearerEntity } from '../store/entities';
import { addEvidence } from '../store/evidence';
import { appendEvents } from '../store/events';
import { whyStopped } from '../transmissions/stopped';
import { queueTransmission } from '../transmissions/write';

export interface AskContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly wakeOutbox: () => void;
  readonly now: () => number;
}

/** The sender may still be sending, or trying again by itself. */
const QUIET_MS = 90_000;

interface Row {
  readonly id: string;
  readonly sender: string;
  readonly addressee: string;
  readonly body: string;
  readonly created_at: Date;
  readonly bearer_id: string;
  readonly path: string[];
}

/**
 * Asks once for what is missing of each text in parts that came by radio packets, when nothing more of it came for a while. Only where the station
 * may answer by itself.
 */
export async function askForParts(context: AskContext): Promise<undefined> {
  const { database, now } = context;
  const settings = await context.settings();
  const own = ownStation(settings);
  if (!settings.answerQueries || own === null) return undefined;
  const rows = await rowsOf<Row>(
    database,
    `select i.id, i.sender, i.addressee, i.body, i.created_at, l.bearer_id, l.path from item i
     join leg l on l.item_id = i.id and l.role = 'convey'
     where i.direction = 'in' and i.kind = 'text' and not i.refused and i.addressee = $1 and i.created_at > $2
       and i.body ~ '^\\([1-9]/[2-9][a-z]\\+?\\) ' and l.bearer_id is not null
     order by i.created_at, i.id limit 500`,
    [own, new Date(now() - PARTS_WITHIN_MS)],
  );
  const sets = new Map<string, (Row & Part)[]>();
  for (const row of rows) {
    const part = readPart(row.body);
    if (!part) continue;
    const key = `${row.sender} ${part.set}${part.of}`;
    sets.set(key, [...(sets.get(key) ?? []), { ...row, ...part }]);
  }
  for (const parts of sets.values()) await ask(context, settings, own, parts);
  return undefined;
}

async function ask(
  { database, now, wakeOutbox }: AskContext,
  settings: Settings,
  own: string,
  parts: readonly (Row & Part)[],
): Promise<void> {
  const last = parts.at(-1)!;
  const { missing } = joinParts(parts);
  if (missing.length === 0 || now() - last.created_at.getTime() < QUIET_MS) return;
  const bearer = await database.getRepository(BearerEntity).findOneBy({ id: last.bearer_id });
  if (!bearer || whyStopped(bearer, settings) !== null) return;
  const carriage = carriageOf(bearer.config);
  if (carriage.what !== 'packets') return;
  const text = writeAskedAgain({ set: last.set, of: last.of, wanted: missing });
  const info = encodeMessage({ addressee: last.sender, text });
  if (!info.ok) return;
  const at = new Date(now());
  await database.transaction(async (manager) => {
    // The record is the lock: of two turns, or processes, one asks.
    const first = await addEvidence(manager, {
      key: `asks again:${parts[0]!.id}`,
      itemId: last.id,
      legId: null,
      kind: 'asked again',
      at,
      bearer: bearer.id,
      by: own,
      note: `part ${missing.join(', ')} of ${last.of}`,
    });
    if (!first) return;
    await queueTransmission(
      manager,
      {
        itemId: last.id,
        role: 'answer',
        bearerId: bearer.id,
        fromCall: own,
        toCall: last.sender,
        path: carriage.path,
        info: info.value,
        policy: { ...settings.retry, tries: 1 },
      },
      at,
    );
    await appendEvents(manager, [{ type: 'item', data: { id: last.id } }], at);
  });
  wakeOutbox();
}
