import { REPEAT_WINDOW_MS, sameMeshPacket, type MeshFrame } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { rowsOf } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { settle } from '../../transmissions/write';
import { meshIdentity } from './config';
import { nameOf } from './nodes';

/** A frame that came in, where and when. */
export interface Received {
  readonly bearerId: string;
  readonly frame: MeshFrame;
  readonly octets: Uint8Array;
  /** The frame in one line, for the record. */
  readonly line: string;
  readonly at: Date;
  readonly packetId: string | null;
  /** Items that changed by it. */
  readonly touched: Set<string>;
}

export const hopWords = (hops: number): string =>
  hops === 0 ? 'heard direct' : hops === 1 ? 'over one hop' : `over ${hops} hops`;

/** Nodes do not sign what they repeat: it is certain that some did, and how many. */
export const unnamedHops = (hops: number) => Array.from({ length: hops }, () => ({ call: null, certain: true }));

/** Our own frame, repeated by somebody: octet by octet what we sent, but for the hops. */
export async function noteRepeat(
  manager: EntityManager,
  { bearerId, frame, octets, line, at, packetId, touched }: Received,
): Promise<void> {
  if (frame.hops === 0) return;
  const [attempt] = await rowsOf<{ leg_id: string; n: number; item_id: string; role: string; frame: Buffer }>(
    manager,
    `select a.leg_id, a.n, l.item_id, l.role, a.frame from attempt a join leg l on l.id = a.leg_id where a.identity = $1
       and l.bearer_id = $4 and a.intended_at <= $2 and a.intended_at > $3 order by a.intended_at desc limit 1`,
    [meshIdentity(frame.number), at, new Date(at.getTime() - REPEAT_WINDOW_MS), bearerId],
  );
  if (!attempt || attempt.role !== 'convey' || !sameMeshPacket(attempt.frame, octets)) return;
  await addEvidence(manager, {
    key: `relayed:${attempt.leg_id}:${attempt.n}:${frame.hops}`,
    itemId: attempt.item_id,
    legId: attempt.leg_id,
    attempt: attempt.n,
    kind: 'relayed',
    at,
    bearer: bearerId,
    road: { how: 'mesh', hops: unnamedHops(frame.hops), open: [], gate: null },
    raw: line,
    packetId,
    note: `heard repeated, ${hopWords(frame.hops)} as it says; nodes of the mesh do not say who repeats`,
  });
  touched.add(attempt.item_id);
}

/** An acknowledgement names the packet that brought the text: it proves that try of that text, on its channel, to its addressee. */
export async function noteAck(
  manager: EntityManager,
  { bearerId, frame, line, at, packetId, touched }: Received,
  of: string,
  channel: string,
): Promise<void> {
  // What was sealed is acknowledged under the same key, or by somebody who could not read it.
  const [leg] = await rowsOf<{ id: string; item_id: string; attempt: number }>(
    manager,
    `select l.id, l.item_id, a.n as attempt from attempt a join leg l on l.id = a.leg_id
     where a.identity = $3 and l.bearer_id = $1 and l.role = 'convey' and l.detail->>'node' = $2
       and l.detail->>'channel' = $4 and a.intended_at <= $5 and a.intended_at > $6
     order by a.intended_at desc limit 1`,
    [bearerId, frame.sender, meshIdentity(of), channel, at, new Date(at.getTime() - REPEAT_WINDOW_MS)],
  );
  if (!leg) return;
  const by = await nameOf(manager, bearerId, frame.sender);
  await addEvidence(manager, {
    key: `delivered:${leg.id}:${frame.number}`,
    itemId: leg.item_id,
    legId: leg.id,
    attempt: leg.attempt,
    kind: 'delivered',
    at,
    bearer: bearerId,
    by,
    raw: line,
    packetId,
    note: `node ${by} acknowledged, ${hopWords(frame.hops)}`,
  });
  await settle(manager, leg.id);
  touched.add(leg.item_id);
}
