import type { Settings } from '@tombolo/contract';
import type { Position } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import { createReceiver } from './receiver';
import { createWaypointSender } from './waypoints-out';

/** What tells the station where it is, and what it tells others of that are wired to it; both as set now. */
export function createPositionEquipment({
  moved,
  ...context
}: {
  readonly database: DataSource;
  readonly settings: () => Promise<Settings>;
  readonly now: () => number;
  readonly random: () => number;
  readonly log: (message: string) => void;
  /** The station has moved. */
  readonly moved: (position: Position) => Promise<unknown>;
}) {
  const receiver = createReceiver({ ...context, moved });
  const waypoints = createWaypointSender(context);
  const positionIn = ({ position, positionSource }: Settings) => receiver.view(position, positionSource);
  return {
    waypoints,
    positionIn,
    positionNow: async () => positionIn(await context.settings()),
    async adopt({ positionSource, waypointsOut }: Settings) {
      await receiver.adopt(positionSource);
      await waypoints.adopt(waypointsOut);
    },
    stop: async () => void (await Promise.all([receiver.stop(), waypoints.stop()])),
  };
}
