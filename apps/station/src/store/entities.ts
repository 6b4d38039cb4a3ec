import { EntitySchema } from 'typeorm';
import type { BearerConfig, BearerState, ImportFormat, ItemKind, Precedence, Settings } from '@tombolo/contract';
import type { PathHop, RetryPolicy } from '@tombolo/core';

/**
 * Rows that are handled one at a time. Receptions, packets and evidence are written in bulk with
 * statements of their own (see ingest/).
 */
const instant = { type: 'timestamptz' as const };

export interface SettingRow {
  id: number;
  value: Settings;
  changedAt: Date;
}
export const SettingEntity = new EntitySchema<SettingRow>({
  name: 'setting',
  columns: {
    id: { type: 'int', primary: true },
    value: { type: 'jsonb' },
    changedAt: { ...instant, name: 'changed_at' },
  },
});

export interface BearerRow {
  id: string;
  name: string;
  config: BearerConfig;
  enabled: boolean;
  state: BearerState;
  createdAt: Date;
}
export const BearerEntity = new EntitySchema<BearerRow>({
  name: 'bearer',
  columns: {
    id: { type: 'text', primary: true },
    name: { type: 'text' },
    config: { type: 'jsonb' },
    enabled: { type: 'boolean' },
    state: { type: 'jsonb' },
    createdAt: { ...instant, name: 'created_at' },
  },
});

export interface ItemRow {
  id: string;
  direction: 'out' | 'in';
  kind: ItemKind;
  precedence: Precedence;
  sender: string;
  addressee: string;
  body: string;
  number: string | null;
  numberField: string | null;
  acknowledgementAsked: boolean;
  createdAt: Date;
  filedAt: Date | null;
  /** Arrived while the store was full: recorded, not taken. */
  refused: boolean;
  answers: string | null;
  packetId: string | null;
  subject: string | null;
  cc: string[];
  /** By which a second copy over another way is recognised. */
  externalId: string | null;
  trace: string[];
  undecipherable: boolean;
}
export const ItemEntity = new EntitySchema<ItemRow>({
  name: 'item',
  columns: {
    id: { type: 'uuid', primary: true },
    direction: { type: 'text' },
    kind: { type: 'text' },
    precedence: { type: 'text' },
    sender: { type: 'text' },
    addressee: { type: 'text' },
    body: { type: 'text' },
    number: { type: 'text', nullable: true },
    numberField: { type: 'text', nullable: true, name: 'number_field' },
    acknowledgementAsked: { type: 'boolean', name: 'acknowledgement_asked' },
    createdAt: { ...instant, name: 'created_at' },
    filedAt: { ...instant, name: 'filed_at', nullable: true },
    refused: { type: 'boolean', default: false },
    answers: { type: 'uuid', nullable: true },
    packetId: { type: 'bigint', nullable: true, name: 'packet_id' },
    subject: { type: 'text', nullable: true },
    cc: { type: 'text', array: true },
    externalId: { type: 'text', nullable: true, name: 'external_id' },
    trace: { type: 'text', array: true },
    undecipherable: { type: 'boolean', default: false },
  },
});

export interface LegRow {
  id: string;
  /** Null for what goes out by itself. */
  itemId: string | null;
  role: 'convey' | 'acknowledge' | 'reject' | 'answer';
  bearerId: string | null;
  fromCall: string;
  toCall: string;
  path: string[];
  info: Buffer;
  acknowledgementAsked: boolean;
  policy: RetryPolicy;
  createdAt: Date;
  nextAt: Date | null;
  leaseOwner: string | null;
  leaseUntil: Date | null;
  /** What a bearer needs besides: where a message is left, which node it goes to. */
  detail: LegDetail | null;
  /** Why it does not go out although it is due: it came from a backup. */
  held: string | null;
}

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
  readonly bulletin?: boolean;
  /** Number that the board gave it. */
  readonly boardNumber?: string;
  /** Envelope identifier of a mail, known to us and the gateway alone. */
  readonly envelope?: string;
  /** A leg that hands an item on: for whom in the end, and by which service. */
  readonly relay?: {
    readonly person: string | null;
    readonly service: string | null;
    readonly far: string | null;
    /** The standing rule that handed it on; absent when somebody did. */
    readonly rule?: string;
  };
}
export const LegEntity = new EntitySchema<LegRow>({
  name: 'leg',
  columns: {
    id: { type: 'uuid', primary: true },
    itemId: { type: 'uuid', name: 'item_id', nullable: true },
    role: { type: 'text' },
    bearerId: { type: 'text', nullable: true, name: 'bearer_id' },
    fromCall: { type: 'text', name: 'from_call' },
    toCall: { type: 'text', name: 'to_call' },
    path: { type: 'text', array: true },
    info: { type: 'bytea' },
    acknowledgementAsked: { type: 'boolean', name: 'acknowledgement_asked' },
    policy: { type: 'jsonb' },
    createdAt: { ...instant, name: 'created_at' },
    nextAt: { ...instant, nullable: true, name: 'next_at' },
    leaseOwner: { type: 'text', nullable: true, name: 'lease_owner' },
    leaseUntil: { ...instant, nullable: true, name: 'lease_until' },
    detail: { type: 'jsonb', nullable: true },
    held: { type: 'text', nullable: true },
  },
});

export interface ImportRow {
  id: string;
  name: string;
  format: ImportFormat;
  startedAt: Date;
  finishedAt: Date | null;
  totalOctets: string | null;
  readOctets: string;
  understood: number;
  notUnderstood: number;
  packets: number;
  /** How many packets of each kind, and for which reasons the rest was not understood. */
  kinds: Readonly<Record<string, number>>;
  reasons: Readonly<Record<string, number>>;
  problem: string | null;
  removedAt: Date | null;
  /** When it last told how far it is. */
  touchedAt: Date | null;
}
export const ImportEntity = new EntitySchema<ImportRow>({
  name: 'import_run',
  columns: {
    id: { type: 'uuid', primary: true },
    name: { type: 'text' },
    format: { type: 'text' },
    startedAt: { ...instant, name: 'started_at' },
    finishedAt: { ...instant, name: 'finished_at', nullable: true },
    totalOctets: { type: 'bigint', name: 'total_octets', nullable: true },
    readOctets: { type: 'bigint', name: 'read_octets' },
    understood: { type: 'int' },
    notUnderstood: { type: 'int', name: 'not_understood' },
    packets: { type: 'int' },
    kinds: { type: 'jsonb' },
    reasons: { type: 'jsonb' },
    problem: { type: 'text', nullable: true },
    removedAt: { ...instant, name: 'removed_at', nullable: true },
    touchedAt: { ...instant, name: 'touched_at', nullable: true },
  },
});

export const entities = [SettingEntity, BearerEntity, ItemEntity, LegEntity, ImportEntity];
