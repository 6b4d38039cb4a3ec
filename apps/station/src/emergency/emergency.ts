import {
  carriageOf,
  ownStation,
  sendsPackets,
  type EmergencyNow,
  type PositionNow,
  type Settings,
} from '@tombolo/contract';
import { encodeEmergencyOver, encodeOwnEmergency, nextEmergencyMs, symbolOf, type Parsed } from '@tombolo/core';
import type { DataSource, EntityManager } from 'typeorm';
import { rowsOf, type Queries } from '../store/database';
import { BearerEntity, type BearerRow } from '../store/entities';
import { appendEvents } from '../store/events';
import { addEvidence } from '../store/evidence';
import { whyStopped } from '../transmissions/stopped';
import { queueByItself, settle } from '../transmissions/write';

export interface EmergencyContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly positionNow: () => Promise<PositionNow>;
  readonly wakeOutbox: () => void;
  readonly now: () => number;
}

/** A call that waited longer tells where we were. */
const VALID_MS = 5 * 60_000;

interface Sent {
  readonly bearer_id: string;
  readonly times: number;
  readonly last_at: Date | null;
  readonly waits: boolean;
  readonly seen_by: string[];
}

/** What went out of a call for help by each bearer, and who has it. */
const sentSince = (queries: Queries, since: string): Promise<Sent[]> =>
  rowsOf<Sent>(
    queries,
    `select l.bearer_id, count(distinct l.id) filter (where sent.at is not null)::int as times, max(sent.at) as last_at,
       bool_or(l.next_at is not null and sent.at is null) as waits,
       coalesce(array_agg(distinct seen.by_whom) filter (where seen.by_whom is not null), '{}') as seen_by
     from leg l
     left join lateral (select min(at) as at from evidence where leg_id = l.id and kind = 'sent') sent on true
     left join evidence seen on seen.leg_id = l.id and seen.kind in ('relayed', 'accepted', 'handed on')
     where l.item_id is null and l.detail->>'emergency' = $1
     group by l.bearer_id`,
    [since],
  );

const modemsOf = async (database: DataSource): Promise<BearerRow[]> =>
  (await database.getRepository(BearerEntity).find({ order: { name: 'ASC' } })).filter(
    ({ enabled, config }) => enabled && sendsPackets(config),
  );

const isDue = (before: Sent | undefined, nowMs: number): boolean =>
  !before || (!before.waits && (!before.last_at || nextEmergencyMs(before.times, before.last_at.getTime()) <= nowMs));

/** Queues our call for help wherever its time has come. It goes before everything else, whatever the channel has borne already. */
export async function emergencyTurn(context: EmergencyContext): Promise<undefined> {
  const { database, now } = context;
  const settings = await context.settings();
  const { emergency } = settings;
  const symbol = symbolOf(settings.symbol);
  if (!emergency || !symbol) return undefined;
  const { position } = await context.positionNow();
  const sent = await sentSince(database, emergency.since);
  for (const modem of await modemsOf(database)) {
    const before = sent.find(({ bearer_id }) => bearer_id === modem.id);
    if (!isDue(before, now()) || whyStopped(modem, settings) !== null) continue;
    await locked(database, modem, async (manager) => {
      // Another turn may have called, and it may be over, since this one was found due.
      const [since] = (await sentSince(manager, emergency.since)).filter(({ bearer_id }) => bearer_id === modem.id);
      const still = (await context.settings()).emergency?.since === emergency.since;
      if (!still || !isDue(since, now())) return;
      await queue(manager, context, settings, modem, encodeOwnEmergency({ ...emergency, position }, symbol), {
        emergency: emergency.since,
        note: emergency.drill ? 'drill: our call for help, for everybody' : 'our call for help, for everybody',
      });
    });
  }
  context.wakeOutbox();
  return undefined;
}

/** What is done while no other turn, and no other process, queues anything by that modem. */
const locked = (database: DataSource, { id }: BearerRow, work: (manager: EntityManager) => Promise<void>) =>
  database.transaction(async (manager) => {
    await manager.query('select 1 from bearer where id = $1 for update', [id]);
    await work(manager);
  });

async function queue(
  manager: EntityManager,
  { now }: EmergencyContext,
  settings: Settings,
  modem: BearerRow,
  info: Parsed<Uint8Array>,
  { emergency, note }: { emergency: string; note: string },
): Promise<void> {
  const own = ownStation(settings);
  const carriage = carriageOf(modem.config);
  if (!info.ok || own === null || carriage.what !== 'packets') return;
  const at = new Date(now());
  const id = await queueByItself(
    manager,
    {
      role: 'convey',
      bearerId: modem.id,
      fromCall: own,
      toCall: 'everybody',
      path: carriage.path,
      info: info.value,
      policy: { ...settings.retry, tries: 1, until: new Date(at.getTime() + VALID_MS).toISOString() },
      detail: { emergency },
    },
    { at, dueAt: at, by: own, note },
  );
  await appendEvents(manager, [{ type: 'transmission', data: { id } }], at);
}

/** Takes out of the queue what would contradict a call for help: a plain position that waits from before. */
export async function dropPlainPositions({ database, now }: EmergencyContext): Promise<void> {
  const at = new Date(now());
  await database.transaction(async (manager) => {
    const legs = await rowsOf<{ id: string; bearer_id: string; from_call: string }>(
      manager,
      `select id, bearer_id, from_call from leg where item_id is null and role = 'convey' and next_at is not null
         and (lease_until is null or lease_until < $1) and detail is null for update`,
      [at],
    );
    for (const { id, bearer_id, from_call } of legs) {
      await addEvidence(manager, {
        key: `cancelled:${id}`,
        itemId: null,
        legId: id,
        kind: 'cancelled',
        at,
        bearer: bearer_id,
        by: from_call,
        note: 'our call for help goes out instead',
      });
      await settle(manager, id);
      await appendEvents(manager, [{ type: 'transmission', data: { id } }], at);
    }
  });
}

/** Ends what of a call for help still waits, and says once by each bearer that it is over. */
export async function sayItIsOver(
  context: EmergencyContext,
  was: { readonly since: string; readonly drill: boolean },
): Promise<void> {
  const { database } = context;
  const settings = await context.settings();
  const symbol = symbolOf(settings.symbol);
  const { position } = await context.positionNow();
  for (const modem of await modemsOf(database))
    await locked(database, modem, async (manager) => {
      const waiting = await rowsOf<{ id: string }>(
        manager,
        `select id from leg where item_id is null and bearer_id = $2 and detail->>'emergency' = $1 and next_at is not null
           and not exists (select 1 from evidence e where e.leg_id = leg.id and e.kind = 'sent')`,
        [was.since, modem.id],
      );
      for (const { id } of waiting) await settle(manager, id);
      const sent = await sentSince(manager, was.since);
      // Where nobody was called, nobody need be told.
      if (!symbol || !sent.some(({ bearer_id, times }) => bearer_id === modem.id && times > 0)) return;
      await queue(manager, context, settings, modem, encodeEmergencyOver({ drill: was.drill, position }, symbol), {
        emergency: was.since,
        note: 'our call for help is over, for everybody',
      });
    });
  context.wakeOutbox();
}

/** Whether we call for help, and what came of it. */
export async function emergencyState({ database, settings, positionNow }: EmergencyContext): Promise<EmergencyNow> {
  const current = await settings();
  const own = current.emergency;
  const sent = own ? await sentSince(database, own.since) : [];
  return {
    own,
    position: (await positionNow()).position,
    over: (await modemsOf(database)).map((modem) => {
      const of = sent.find(({ bearer_id }) => bearer_id === modem.id);
      return {
        bearerId: modem.id,
        name: modem.name,
        stopped: whyStopped(modem, current),
        times: of?.times ?? 0,
        lastAt: of?.last_at?.toISOString() ?? null,
        seenBy: [...(of?.seen_by ?? [])].sort(),
      };
    }),
  };
}
