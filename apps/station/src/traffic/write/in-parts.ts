import { createHash } from 'node:crypto';
import type { Carriage, Content, WrittenItem } from '@tombolo/contract';
import { MAX_MESSAGE_TEXT, mostMeshTextOctets, nextSet, readPart, splitText } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { rowsOf } from '../../store/database';

/** Parts wait so long for each other, so that others find the channel free in between. */
export const PARTS_APART_MS = 2000;

/** So far back is looked for the letter of the text before. */
const SETS_WITHIN_MS = 24 * 3_600_000;

/** What is sent as what was written: one text, or as many as it takes. */
export async function inParts(
  manager: EntityManager,
  { content, way }: WrittenItem,
  carriage: Carriage,
  address: string | null,
  at: Date,
): Promise<readonly Content[]> {
  if (content.is !== 'text' || !content.inParts) return [content];
  const split = splitText(content.body, await freeSet(manager, address, at), mostOctets(way, carriage));
  if (!split.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', split.error.reason);
  return split.value.map((body) => ({ ...content, body, inParts: false }));
}

function mostOctets(way: WrittenItem['way'], carriage: Carriage): number {
  if (way.by !== 'texts' || carriage.what !== 'texts') return MAX_MESSAGE_TEXT;
  return mostMeshTextOctets(carriage.channels.find(({ name }) => name === way.channel)?.sealed ?? false);
}

/** The letter behind that of the last text in parts to that address. */
async function freeSet(manager: EntityManager, address: string | null, at: Date): Promise<string> {
  // Two that are written at once have two letters.
  await manager.query(`select pg_advisory_xact_lock(hashtext('parts'))`);
  const [last] = await rowsOf<{ body: string }>(
    manager,
    `select i.body from item i join leg l on l.item_id = i.id
     where i.direction = 'out' and i.created_at > $2 and i.body ~ '^\\([1-9]/[2-9][a-z]'
       and ($1::text is null or i.addressee = $1 or l.detail->>'node' = $1)
     order by i.created_at desc limit 1`,
    [address, new Date(at.getTime() - SETS_WITHIN_MS)],
  );
  return nextSet(last ? (readPart(last.body)?.set ?? null) : null);
}

/** The identifier of a part: always the same of the same text, so that pressing twice sends once. */
export function partId(id: string, n: number): string {
  const hex = createHash('sha256').update(`${id}/${n}`).digest('hex');
  return [hex.slice(0, 8), hex.slice(8, 12), `8${hex.slice(13, 16)}`, `8${hex.slice(17, 20)}`, hex.slice(20, 32)].join(
    '-',
  );
}
