import { inSessions, bearerKind, type BearerConfig, type WaitingView } from '@tombolo/contract';
import { textOfOctets } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { rowsOf } from '../store/database';
import { appendEvents, transmissionChanged } from '../store/events';
import { addEvidence } from '../store/evidence';
import type { Bearer } from './bearer';
import { STALE_ANSWER_MS } from './claim';
import { outgoing, type DueLeg } from './due';
import { settle, STILL_GOES_OUT } from './write';

type Running = readonly { readonly id: string; readonly bearer: Bearer }[];
type WaitingLeg = DueLeg & { name: string; config: BearerConfig; body: string | null; created_at: Date };

const DOES: Readonly<Record<Exclude<DueLeg['role'], 'convey'>, string>> = {
  acknowledge: 'acknowledges what came',
  reject: 'says that there was no room',
  answer: 'answers a question',
};

/** What goes out by itself once it may, the oldest first: not what waits for a session or for a bearer that is switched off, nor an answer that comes too late by now. */
export async function listWaiting(source: DataSource, running: Running, now: number): Promise<WaitingView[]> {
  const legs = await rowsOf<WaitingLeg>(
    source,
    `select leg.*, coalesce(leg.detail->>'number', i.number) as number, coalesce(i.precedence, 'routine') as precedence,
       b.name, b.config, i.body
     from leg join bearer b on b.id = leg.bearer_id left join item i on i.id = leg.item_id
     where leg.held is null and b.enabled and ${STILL_GOES_OUT} and (leg.role = 'convey' or (leg.created_at >= $1 and coalesce((leg.policy->>'until')::timestamptz > $2, true)))
     order by leg.created_at, leg.id limit 1000`,
    [new Date(now - STALE_ANSWER_MS), new Date(now)],
  );
  return legs
    .filter(({ config }) => !inSessions(bearerKind(config.kind)))
    .map((leg) => ({
      id: leg.id,
      itemId: leg.item_id,
      bearerId: leg.bearer_id,
      bearer: leg.name,
      kind: leg.config.kind,
      role: leg.role,
      to: leg.to_call,
      words: leg.detail?.repeats
        ? `repeats a packet of ${leg.from_call}`
        : leg.role === 'convey'
          ? (leg.body ?? textOfOctets(leg.info)).slice(0, 120)
          : DOES[leg.role],
      queuedAt: leg.created_at.toISOString(),
      airMs: airMsOf(leg, running),
    }));
}

function airMsOf(leg: WaitingLeg, running: Running): number | null {
  const bearer = running.find(({ id }) => id === leg.bearer_id)?.bearer;
  const encoded = bearer?.encode?.(outgoing(leg), 1);
  return bearer?.air && encoded?.ok ? bearer.air.ms(encoded.value.frame) : null;
}

/** Takes some of what waits out of the queue; what meanwhile went out, or is on its way, stays. Gives how many were taken out. */
export async function dropWaiting(source: DataSource, ids: readonly string[], at: Date): Promise<number> {
  return source.transaction(async (manager) => {
    const legs = await rowsOf<Pick<DueLeg, 'id' | 'item_id' | 'role' | 'bearer_id' | 'from_call'>>(
      manager,
      `select id, item_id, role, bearer_id, from_call from leg
       where id = any($1::uuid[]) and next_at is not null and (lease_until is null or lease_until < $2) for update`,
      [ids, at],
    );
    for (const leg of legs) {
      const cancelled = leg.role === 'convey';
      await addEvidence(manager, {
        key: `${cancelled ? 'cancelled' : 'left out'}:${leg.id}`,
        itemId: leg.item_id,
        legId: leg.id,
        kind: cancelled ? 'cancelled' : 'left out',
        at,
        bearer: leg.bearer_id,
        by: leg.from_call,
        note: 'taken out of the queue by the operator before the transmitter was unlocked',
      });
      await settle(manager, leg.id);
    }
    await appendEvents(manager, legs.map(transmissionChanged), at);
    return legs.length;
  });
}
