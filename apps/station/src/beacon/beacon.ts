import type { BeaconNow, BeaconPlan, PositionNow, Settings } from '@tombolo/contract';
import { decodeInformation, isBeaconDue, motionOf, type TrackPoint } from '@tombolo/core';
import { randomUUID } from 'node:crypto';
import type { DataSource } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, type Queries } from '../store/database';
import { BearerEntity } from '../store/entities';
import { whyStopped } from '../transmissions/stopped';
import { waitsByItself } from '../transmissions/write';
import { queueOwnPosition } from '../traffic/write/own-position';

export interface BeaconContext {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly positionNow: () => Promise<PositionNow>;
  readonly wakeOutbox: () => void;
  readonly now: () => number;
}

/** Paths of so many positions are looked back at, to see when the far one was used. */
const MOST_NTH = 20;

interface SentPosition {
  readonly point: TrackPoint | null;
  readonly at: Date;
  readonly path: readonly string[];
}

/** Positions that went out last, by hand or by the plan, the last first: what others know of us. */
async function lastPositions(queries: Queries): Promise<SentPosition[]> {
  const rows = await rowsOf<{ info: Buffer; created_at: Date; path: string[] }>(
    queries,
    `select info, created_at, path from leg where item_id is null and role = 'convey' and (detail is null or detail ? 'emergency')
       and exists (select 1 from evidence e where e.leg_id = leg.id and e.kind = 'sent')
     order by created_at desc limit $1`,
    [MOST_NTH],
  );
  return rows.map(({ info, created_at, path }) => {
    const read = decodeInformation(info, 'APRS');
    const place = read.ok && read.value.kind === 'position' ? read.value : null;
    return {
      at: created_at,
      path,
      point: place && {
        atMs: created_at.getTime(),
        latitude: place.latitude,
        longitude: place.longitude,
        courseDeg: place.courseDeg,
        speedKnots: place.speedKnots,
      },
    };
  });
}

/** Where we are, with the motion that a receiver tells. */
function pointNow({ position, receiver }: PositionNow, atMs: number): TrackPoint | null {
  if (!position) return null;
  const fix = receiver?.fresh ? receiver.fix : null;
  return { ...position, atMs, courseDeg: fix?.courseDeg ?? null, speedKnots: fix?.speedKnots ?? null };
}

/** Why nothing goes out by the plan now; null when it may. */
async function stoppedBy(
  queries: DataSource,
  plan: BeaconPlan,
  settings: Settings,
  { position, receiver }: PositionNow,
): Promise<string | null> {
  if (settings.emergency) return 'Our call for help goes out instead.';
  const bearer = await queries.getRepository(BearerEntity).findOneBy({ id: plan.bearerId });
  const stopped = whyStopped(bearer, settings);
  if (stopped !== null) return stopped;
  if (position) return null;
  return receiver ? 'The position receiver has no fix: nothing is sent from where we were.' : 'No position is set.';
}

/** The path of the next one: the far one when the plan's count says so. */
function pathOf({ path, far }: BeaconPlan, before: readonly SentPosition[]): readonly string[] {
  if (!far) return path;
  const near = before.slice(0, far.everyNth - 1);
  const isFar = ({ path: used }: SentPosition) => used.join() === far.path.join();
  return near.length === far.everyNth - 1 && !near.some(isFar) ? far.path : path;
}

/** Queues our position when the plan says so. Gives what came of it, in words. */
export async function beaconTurn(context: BeaconContext): Promise<string | undefined> {
  const { database, now } = context;
  const settings = await context.settings();
  const plan = settings.beacon;
  if (!plan) return undefined;
  const position = await context.positionNow();
  if ((await stoppedBy(database, plan, settings, position)) !== null) return undefined;
  // First: what no longer waits is on record as sent, and is among the last ones then.
  if (await waitsByItself(database, 'convey', plan.bearerId)) return undefined;
  const here = pointNow(position, now());
  const before = await lastPositions(database);
  if (!here || !isBeaconDue(plan.scheme, before[0]?.point ?? null, here)) return undefined;
  try {
    await queueOwnPosition(
      database,
      {
        id: randomUUID(),
        bearerId: plan.bearerId,
        path: [...pathOf(plan, before)],
        ambiguity: plan.ambiguity,
        comment: plan.comment,
      },
      { ...settings, position: position.position },
      new Date(here.atMs),
      {
        motion: motionOf(here),
        note: 'our position, for everybody, by the beacon plan',
        // Another turn may have been first, and its position on the air already.
        unlessAfter: before[0]?.at ?? null,
      },
    );
  } catch (error) {
    // Locked or taken in the meantime: the next turn sees it.
    if (error instanceof ProblemError) return error.title;
    throw error;
  }
  context.wakeOutbox();
  return undefined;
}

/** Whether the plan runs, and when the next position goes out at the latest. */
export async function beaconState({ database, settings, positionNow, now }: BeaconContext): Promise<BeaconNow> {
  const current = await settings();
  const plan = current.beacon;
  const [last] = await lastPositions(database);
  const stopped = plan ? await stoppedBy(database, plan, current, await positionNow()) : null;
  const mostS = plan && (plan.scheme.by === 'time' ? plan.scheme.everyS : plan.scheme.mostS);
  return {
    plan,
    stopped,
    lastAt: last?.at.toISOString() ?? null,
    nextBy:
      mostS === null || stopped !== null
        ? null
        : new Date(Math.max(now(), (last?.at.getTime() ?? 0) + mostS * 1000)).toISOString(),
  };
}
