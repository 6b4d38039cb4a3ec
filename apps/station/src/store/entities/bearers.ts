import type { BearerConfig, BearerState } from '@tombolo/contract';
import { bigint, double, flag, instant, integer, json, key, maybe, table, text, uuid, type RowOf } from '../table';

const bearerColumns = {
  id: key(text()),
  name: text(),
  config: json<BearerConfig>(),
  enabled: flag(),
  state: json<BearerState>(),
  createdAt: instant(),
};
export const BearerEntity = table('bearer', bearerColumns);
export type BearerRow = RowOf<typeof bearerColumns>;

/** What receptions and attempts ran over: a port of a modem on a frequency, or an import. */
export const ChannelEntity = table('channel', {
  id: key(integer()),
  bearerId: maybe(text()),
  importId: maybe(uuid()),
  port: maybe(integer()),
  frequencyHz: maybe(bigint()),
});

export const MeshNodeEntity = table('mesh_node', {
  bearerId: key(text()),
  node: key(text()),
  tag: text(),
  name: text(),
  carrier: flag(),
  latitude: maybe(double()),
  longitude: maybe(double()),
  batteryPercent: maybe(integer()),
  snrDb: maybe(double()),
  hops: maybe(integer()),
  lastAt: instant(),
});

/** What lies on the far side of a bearer and may be fetched: messages of a board, mails of a mailbox. */
export const OfferEntity = table('offer', {
  bearerId: key(text()),
  key: key(text()),
  number: text(),
  kind: text(),
  octets: integer(),
  sender: text(),
  addressee: text(),
  at: text(),
  subject: text(),
  seenAt: instant(),
  gone: flag(),
  itemId: maybe(uuid()),
});

export const SessionRunEntity = table('session_run', {
  id: key(uuid()),
  bearerId: text(),
  kind: text(),
  startedAt: instant(),
  endedAt: maybe(instant()),
  stage: text(),
  doneOctets: integer(),
  totalOctets: integer(),
  problem: maybe(text()),
  record: text(),
});
