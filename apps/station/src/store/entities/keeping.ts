import type { ImportFormat, MapKind } from '@tombolo/contract';
import {
  bigint,
  counted,
  flag,
  instant,
  integer,
  json,
  key,
  maybe,
  octets,
  table,
  text,
  uuid,
  type RowOf,
} from '../table';

const importColumns = {
  id: key(uuid()),
  name: text(),
  format: text<ImportFormat>(),
  startedAt: instant(),
  finishedAt: maybe(instant()),
  totalOctets: maybe(bigint()),
  readOctets: bigint(),
  understood: integer(),
  notUnderstood: integer(),
  packets: integer(),
  /** How many packets of each kind, and for which reasons the rest was not understood. */
  kinds: json<Readonly<Record<string, number>>>(),
  reasons: json<Readonly<Record<string, number>>>(),
  problem: maybe(text()),
  removedAt: maybe(instant()),
  /** When it last told how far it is. */
  touchedAt: maybe(instant()),
};
export const ImportEntity = table('import_run', importColumns);
export type ImportRow = RowOf<typeof importColumns>;

export const BackupRunEntity = table('backup_run', {
  id: key(uuid()),
  startedAt: instant(),
  finishedAt: maybe(instant()),
  octets: maybe(bigint()),
  verified: flag(),
  problem: maybe(text()),
});

export const MapLayerEntity = table('map_layer', {
  id: key(uuid()),
  name: text(),
  kind: text<MapKind>(),
  octets: bigint(),
  createdAt: instant(),
  complete: flag(),
});

export const MapChunkEntity = table('map_chunk', {
  mapId: key(uuid()),
  n: key(integer()),
  content: octets(),
});

/** An occurrence of scheduled work. */
export const JobEntity = table('job', {
  kind: key(text()),
  dueAt: key(instant()),
  state: text(),
  owner: maybe(text()),
  leaseUntil: maybe(instant()),
  tries: integer(),
  beganAt: maybe(instant()),
  endedAt: maybe(instant()),
  outcome: maybe(text()),
});

export const EventEntity = table('event', {
  seq: key(bigint()),
  type: text(),
  at: instant(),
  data: json<unknown>(),
});

export const EventHeadEntity = table('event_head', {
  id: key(integer()),
  seq: bigint(),
});

/** How far the receptions of a spool file are stored. */
export const SpoolMarkEntity = table('spool_mark', {
  spool: key(uuid()),
  done: bigint(),
  at: instant(),
});

/** Which tables lie in monthly partitions, and by which column. */
export const MonthlyEntity = table('monthly', {
  name: key(text()),
  key: text(),
});

/** How far the rebuilding of everything that is derived has come. */
export const RemakeEntity = table('remake', {
  id: key(integer()),
  doneId: bigint(),
  done: integer(),
  caughtUp: flag(),
  beganAt: instant(),
});

/** What was heard while a rebuild ran, to be folded in at its end. */
export const RemakeTailEntity = table('remake_tail', {
  n: counted(bigint()),
  receptionId: bigint(),
});
