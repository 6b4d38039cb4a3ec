import { ownStation, type Settings, type WantedPositionReport } from '@tombolo/contract';
import { encodeOwnPosition, symbolOf } from '@tombolo/core';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { LegEntity } from '../../store/entities';
import { appendEvents } from '../../store/events';
import { queueByItself, sentByItselfAfter, waitsByItself } from '../../transmissions/write';
import { chosen } from './chosen';

/** A position that still waits after that is not sent any more. */
const VALID_MS = 5 * 60_000;

/** Queues our own position, to go out once; the same identifier again changes nothing. `settings` has the position of now. */
export const queueOwnPosition = (
  source: DataSource,
  wanted: WantedPositionReport,
  settings: Settings,
  at: Date,
  how: PositionSending = { note: 'our position, for everybody, sent by hand' },
): Promise<void> => source.transaction((manager) => ownPositionIn(manager, wanted, settings, at, how));

interface PositionSending {
  readonly motion?: { readonly courseDeg: number; readonly speedKnots: number } | null;
  readonly note: string;
  /** One that waits to go out already is as good. */
  readonly unlessWaiting?: boolean;
  /** One of ours that was queued after this is as good; null when there was none. */
  readonly unlessAfter?: Date | null;
}

/** The same within a transaction of somebody else. */
export async function ownPositionIn(
  manager: EntityManager,
  { id, bearerId, path, ambiguity, comment }: WantedPositionReport,
  settings: Settings,
  at: Date,
  how: PositionSending,
): Promise<void> {
  // Two that are pressed at once come one after the other.
  await manager.query('select 1 from bearer where id = $1 for update', [bearerId]);
  if (await manager.getRepository(LegEntity).existsBy({ id })) return;
  await chosen(manager, { by: 'packets', bearerId }, settings);
  // Whoever hears us say where we are, and no more, takes it that no help is needed.
  if (settings.emergency)
    throw new ProblemError(
      409,
      'emergency',
      'A call for help of ours goes out',
      'It tells where we are as well. Nothing was queued: a plain position would say that no help is needed any more.',
    );
  const own = ownStation(settings)!;
  const symbol = symbolOf(settings.symbol);
  if (!settings.position || !symbol)
    throw new ProblemError(
      409,
      'no-position',
      'It is not known where this station is',
      settings.positionSource.by === 'typed'
        ? 'Nothing was queued. Enter its position and send again.'
        : 'Nothing was queued: the position receiver has no fix. Wait for one under open sky, or type the position in.',
    );
  if (await waitsByItself(manager, 'convey', bearerId)) {
    if (how.unlessWaiting) return;
    throw new ProblemError(
      409,
      'still-waiting',
      'One waits already',
      'A position of ours waits to go out by that bearer; another one would only load the channel.',
    );
  }
  if (how.unlessAfter !== undefined && (await sentByItselfAfter(manager, 'convey', how.unlessAfter))) return;
  const info = encodeOwnPosition({ ...settings.position, ...how.motion, symbol, ambiguity, comment });
  if (!info.ok) throw new ProblemError(422, 'no-report', 'That cannot be sent', info.error.reason);
  await queueByItself(
    manager,
    {
      id,
      role: 'convey',
      bearerId,
      fromCall: own,
      toCall: 'everybody',
      path,
      info: info.value,
      // Later it would tell where we were.
      policy: { ...settings.retry, tries: 1, until: new Date(at.getTime() + VALID_MS).toISOString() },
    },
    { at, dueAt: at, by: own, note: how.note },
  );
  await appendEvents(manager, [{ type: 'transmission', data: { id } }], at);
}
