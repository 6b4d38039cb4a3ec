import { farOf, readServiceWord, type EvidenceKind } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, type Queries } from '../store/database';
import { ItemEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { addEvidence, evidenceOf } from '../store/evidence';
import { settle } from '../transmissions/write';
import { serviceAt } from './directory';
import { provesSomething, type OpenQuestion, type Proving } from './questions';

/** What a service said, and by which packet. */
export interface Said {
  readonly proves: Proving;
  /** Who says it: somebody behind the service, or itself. */
  readonly by: string;
  readonly text: string;
  readonly service: string;
  readonly at: Date;
  readonly bearer: string | null;
  readonly via: readonly string[];
  readonly raw: string | null;
  readonly packetId: string | null;
  /** Somebody said that it belongs here. */
  readonly told?: boolean;
}

const EVIDENCE: Readonly<Record<Proving, EvidenceKind>> = {
  taken: 'handed on',
  refused: 'refused',
  answer: 'answered',
  told: 'answered',
};

/** What a service said becomes evidence of a question, and nothing more is tried for it. */
export async function noteBelongs(
  queries: Queries,
  { itemId, legId, attempt }: Pick<OpenQuestion, 'itemId' | 'legId' | 'attempt'>,
  said: Said,
): Promise<void> {
  const kind = EVIDENCE[said.proves];
  await addEvidence(queries, {
    key: `${kind}:${legId}:${said.packetId}`,
    itemId,
    legId,
    attempt,
    kind,
    at: said.at,
    bearer: said.bearer,
    by: said.by,
    via: [...said.via],
    raw: said.raw,
    // Over the air anybody can use any call: what a packet's source says is a claim.
    note: `${said.text} (said under the call ${said.service}${said.told ? '; that it belongs here was said at this station' : ''})`,
    packetId: said.packetId,
  });
  await settle(queries, legId);
}

/** Says which of several questions an answer belongs to: from then on it is evidence of that one. */
export async function sayBelongs(source: DataSource, id: string, question: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    const item = await manager
      .getRepository(ItemEntity)
      .findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
    if (!item) throw new ProblemError(404, 'no-such-item', 'That item does not exist', `There is no item ${id}.`);
    const [offer] = await rowsOf<{ leg_id: string; attempt: number | null; values: Record<string, string> | null }>(
      manager,
      `select o.leg_id, (select max(n) from attempt a where a.leg_id = l.id and a.intended_at <= $3) as attempt,
         l.detail->'service'->'values' as values
       from answer_offer o join leg l on l.id = o.leg_id where o.item_id = $1 and l.item_id = $2`,
      [id, question, item.createdAt],
    );
    const service = await serviceAt(manager, item.sender);
    const word = service && readServiceWord(service, item.body);
    if (!offer || !service || !word || !provesSomething(word) || offer.attempt === null)
      throw new ProblemError(
        409,
        'not-offered',
        'It is not open any more',
        'Somebody said already which question it belongs to, or its service says it in other words now.',
      );
    const arrived = ((await evidenceOf(manager, [id])).get(id) ?? []).find(({ kind }) => kind === 'delivered');
    await noteBelongs(
      manager,
      { itemId: question, legId: offer.leg_id, attempt: offer.attempt },
      {
        proves: word.proves,
        by: word.proves === 'answer' ? (farOf(word, offer.values ?? {}) ?? service.address) : service.address,
        text: item.body,
        service: service.address,
        at: item.createdAt,
        bearer: arrived?.bearer ?? null,
        via: arrived?.via ?? [],
        raw: arrived?.raw ?? null,
        packetId: item.packetId,
        told: true,
      },
    );
    const answer = word.proves === 'answer' || word.proves === 'told';
    await manager.query(
      'update item set answers = coalesce($2, answers), filed_at = coalesce(filed_at, $3) where id = $1',
      [id, answer ? question : null, answer ? null : at],
    );
    await manager.query('delete from answer_offer where item_id = $1', [id]);
    await appendEvents(
      manager,
      [id, question].map((one) => ({ type: 'item' as const, data: { id: one } })),
      at,
    );
  });
}
