import { channelIds } from '../store/channels';
import type { Queries } from '../store/database';
import { addEvidence } from '../store/evidence';
import type { Tuned } from './bearer';

/** The only writer of attempts: a try is on record before anything of it is handed over. */
export async function recordIntent(
  queries: Queries,
  of: { readonly id: string; readonly itemId: string | null; readonly bearerId: string },
  attempt: {
    readonly n: number;
    readonly at: Date;
    readonly frame: Uint8Array;
    readonly identity: Buffer;
    /** Null for what crosses by no channel of its own. */
    readonly tuned: Tuned | null;
    readonly raw?: string;
    readonly note?: string;
  },
): Promise<void> {
  const { n, at } = attempt;
  const channel = { bearerId: of.bearerId, importId: null, port: null, frequencyHz: null, ...attempt.tuned };
  const channelId = (await channelIds(queries, [channel]))(channel);
  await queries.query(
    'insert into attempt (leg_id, n, intended_at, frame, identity, channel_id) values ($1,$2,$3,$4,$5,$6)',
    [of.id, n, at, Buffer.from(attempt.frame), attempt.identity, channelId],
  );
  await addEvidence(queries, {
    key: `intended:${of.id}:${n}`,
    itemId: of.itemId,
    legId: of.id,
    attempt: n,
    kind: 'intended',
    at,
    bearer: of.bearerId,
    raw: attempt.raw,
    note: attempt.note,
  });
}
