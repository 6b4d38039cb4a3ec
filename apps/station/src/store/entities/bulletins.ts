import type { GoesOut } from '@tombolo/contract';
import type { OwnBulletin } from '@tombolo/core';
import { instant, integer, json, key, maybe, table, uuid } from '../table';

/** What this station tells everybody, again and again until it is over. */
export const OwnBulletinEntity = table('own_bulletin', {
  id: key(uuid()),
  bulletin: json<OwnBulletin>(),
  goesOut: json<GoesOut>(),
  until: instant(),
  endedAt: maybe(instant()),
  changedAt: instant(),
  revision: integer(),
});

/** How often a bulletin that came was heard, and when last. */
export const BulletinHeardEntity = table('bulletin_heard', {
  itemId: key(uuid()),
  lastAt: instant(),
  times: integer(),
});
