import type { ItemKind, Precedence } from '@tombolo/contract';
import type { EvidenceKind, PathHop, RetryPolicy, ServiceQuestion, Standing } from '@tombolo/core';
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
  texts,
  uuid,
  type RowOf,
} from '../table';

const itemColumns = {
  id: key(uuid()),
  direction: text<'out' | 'in'>(),
  kind: text<ItemKind>(),
  precedence: text<Precedence>(),
  sender: text(),
  addressee: text(),
  body: text(),
  number: maybe(text()),
  numberField: maybe(text()),
  acknowledgementAsked: flag(),
  createdAt: instant(),
  filedAt: maybe(instant()),
  /** Arrived while the store was full: recorded, not taken. */
  refused: flag(),
  answers: maybe(uuid()),
  packetId: maybe(bigint()),
  subject: maybe(text()),
  cc: texts(),
  /** By which a second copy over another way is recognised. */
  externalId: maybe(text()),
  trace: texts(),
  undecipherable: flag(),
  /** How well its sender was known when it came. */
  standing: maybe(text<Standing>()),
  /** How often it changed; counted with the event that tells of it. */
  revision: bigint(),
};
export const ItemEntity = table('item', itemColumns);
export type ItemRow = RowOf<typeof itemColumns>;

export const AttachmentEntity = table('attachment', {
  id: key(uuid()),
  itemId: uuid(),
  name: text(),
  type: text(),
  content: octets(),
});

export interface LegDetail {
  /** For legs that brought an item: the stations between, as far as they are told. */
  readonly arrivedBy?: readonly (string | PathHop)[];
  readonly node?: string;
  /** Identifier of a mail that came, by which ours answers it. */
  readonly messageId?: string;
  readonly channel?: string;
  readonly acknowledges?: string;
  /** Message number of this leg, where it is not the item's own. */
  readonly number?: string | null;
  /** A packet of somebody else that is repeated: as it stands in the frame. */
  readonly repeats?: {
    readonly packetId: string;
    readonly destination: string;
    readonly path: readonly { readonly call: string; readonly used: boolean }[];
  };
  /** A thing that we put on the map, by its identifier. */
  readonly object?: string;
  /** A bulletin of ours, by its identifier. */
  readonly ownBulletin?: string;
  /** Told by itself that a text came. */
  readonly automatic?: true;
  /** Our status. */
  readonly status?: true;
  /** A call for help of ours, by when it began; its end as well. */
  readonly emergency?: string;
  readonly bulletin?: boolean;
  /** Number that the board gave it. */
  readonly boardNumber?: string;
  /** Envelope identifier of a mail, known to us and the gateway alone. */
  readonly envelope?: string;
  /** A command to a service, as it was put together: its answers are told by it. */
  readonly service?: ServiceQuestion;
  /** A leg that hands an item on: for whom in the end, and by which service. */
  readonly relay?: {
    readonly person: string | null;
    readonly service: string | null;
    readonly far: string | null;
    /** The standing rule that handed it on; absent when somebody did. */
    readonly rule?: string;
  };
}

const legColumns = {
  id: key(uuid()),
  /** Null for what goes out by itself. */
  itemId: maybe(uuid()),
  role: text<'convey' | 'acknowledge' | 'reject' | 'answer'>(),
  bearerId: maybe(text()),
  fromCall: text(),
  toCall: text(),
  path: texts(),
  info: octets(),
  acknowledgementAsked: flag(),
  policy: json<RetryPolicy>(),
  createdAt: instant(),
  nextAt: maybe(instant()),
  leaseOwner: maybe(text()),
  leaseUntil: maybe(instant()),
  /** What a bearer needs besides: where a message is left, which node it goes to. */
  detail: maybe(json<LegDetail>()),
  /** Why it does not go out although it is due: it came from a backup. */
  held: maybe(text()),
};
export const LegEntity = table('leg', legColumns);
export type LegRow = RowOf<typeof legColumns>;

export const AttemptEntity = table('attempt', {
  id: counted(bigint()),
  legId: uuid(),
  n: integer(),
  intendedAt: instant(),
  frame: octets(),
  identity: octets(),
  channelId: maybe(integer()),
});

export const EvidenceEntity = table('evidence', {
  id: counted(bigint()),
  key: text(),
  itemId: maybe(uuid()),
  legId: maybe(uuid()),
  attempt: maybe(integer()),
  kind: text<EvidenceKind>(),
  at: instant(),
  bearer: maybe(text()),
  byWhom: maybe(text()),
  via: texts(),
  raw: maybe(text()),
  note: maybe(text()),
  expectBy: maybe(instant()),
  packetId: maybe(bigint()),
  road: maybe(json<unknown>()),
});

export const CustodyEntity = table('custody', {
  id: counted(bigint()),
  key: text(),
  itemId: uuid(),
  what: text(),
  other: text(),
  at: instant(),
  byWhom: text(),
  bearer: maybe(text()),
  note: maybe(text()),
});

/** Messages of one sender that are told as one row when they flood in. */
export const OverflowEntity = table('overflow', {
  kind: key(text()),
  sender: key(text()),
  addressee: key(text()),
  itemId: uuid(),
  count: integer(),
  firstAt: instant(),
  lastAt: instant(),
});
