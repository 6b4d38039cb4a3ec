import type { GoesOut } from '@tombolo/contract';
import type { OwnThing } from '@tombolo/core';
import { flag, instant, json, key, maybe, table, text, uuid, integer } from '../table';

/** A thing that this station puts on the map of all. */
export const OwnObjectEntity = table('own_object', {
  id: key(uuid()),
  thing: json<OwnThing>(),
  goesOut: json<GoesOut>(),
  live: flag(),
  takenBy: maybe(text()),
  changedAt: instant(),
  revision: integer(),
});
