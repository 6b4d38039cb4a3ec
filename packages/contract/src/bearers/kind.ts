import type { MeshRadio, Rung } from '@tombolo/core';
import type { z } from 'zod';

/**
 * The kinds that there are, each with the schema of its configuration. Every kind adds its own line by declaration merging, so that a
 * new one touches no file but its own.
 */
// eslint-disable-next-line @typescript-eslint/no-empty-object-type -- filled by each kind
export interface BearerSchemas {}

export type BearerKindId = keyof BearerSchemas;
type SchemaOf<Id extends BearerKindId> = BearerSchemas[Id] extends z.ZodType ? BearerSchemas[Id] : never;

/** The configuration of a bearer of one kind, or of any. */
export type BearerConfig<Id extends BearerKindId = BearerKindId> = { [K in Id]: z.output<SchemaOf<K>> }[Id];
export type BearerConfigInput<Id extends BearerKindId = BearerKindId> = { [K in Id]: z.input<SchemaOf<K>> }[Id];

/** What of a configuration never leaves the station but by a deliberate action. */
export interface Secrets<Id extends BearerKindId> {
  /** The configuration as others may see it. */
  readonly hide: (config: BearerConfig<Id>) => BearerConfig<Id>;
  /** A changed configuration with the secrets that stay. */
  readonly keep: (before: BearerConfig<Id>, after: BearerConfig<Id>) => KeptSecrets<Id>;
}

export interface KeptSecrets<Id extends BearerKindId = BearerKindId> {
  readonly config: BearerConfig<Id>;
  /** Names of what would be replaced by another secret. */
  readonly replaced: readonly string[];
  /** Names of what is said to stay although there is none. */
  readonly unknown: readonly string[];
}

/** Whom a session is held with, over which modem. */
export interface CalledStation {
  readonly over: string;
  readonly call: string;
  readonly path: readonly string[];
}

/** How often what is left there goes on to other boards; from which minute of the day (UTC), where that is known. */
export interface Forwarding {
  readonly everyMin: number;
  readonly fromMin: number | null;
}

/** What a bearer carries, and what whoever writes for it needs to know. */
export type Carriage =
  /** Packets of our own, by radio: over its usual path, with a transmitter that needs so long before data. */
  | { readonly what: 'packets'; readonly path: readonly string[]; readonly txDelayMs: number }
  /** Texts to nodes, and to everybody on a channel. */
  | {
      readonly what: 'texts';
      /** The number of our own node, and what it is called. */
      readonly node: string;
      readonly tag: string;
      /** How often what it sends may be repeated. */
      readonly hopLimit: number;
      readonly channels: readonly { readonly name: string; readonly sealed: boolean }[];
      /** Where and how its nodes work; null while that is not set. */
      readonly radio: MeshRadio | null;
    }
  /** Messages, left and taken in sessions that somebody begins. */
  | ({ readonly what: 'messages'; readonly forwards: Forwarding | null } & CalledStation)
  /** Mail, in sessions as well; from this address. */
  | ({ readonly what: 'mail'; readonly address: string } & CalledStation)
  | { readonly what: 'nothing' };

/** All that others need to know of a kind of bearer; nobody compares its name. */
export interface BearerKind<Id extends BearerKindId = BearerKindId> {
  readonly id: Id;
  readonly config: z.ZodType<BearerConfig<Id>> & SchemaOf<Id>;
  /** Licence needed, and nothing sealed. */
  readonly amateurBand: boolean;
  readonly sends: Carriage['what'];
  /** What one of its bearers carries: of the sort that `sends` names. */
  carriage(config: BearerConfig<Id>): Carriage;
  /** Whatever comes over it was put on the air by somebody with a licence. */
  readonly sendersLicensed: boolean;
  /** Texts: so many octets; null where nothing but patience limits them. */
  readonly mostTextOctets: number | null;
  /** The highest rung that it can prove by itself. */
  readonly proves: Rung | null;
  readonly secrets?: Secrets<Id>;
}

const kinds = new Map<string, BearerKind<never>>();

/** Makes a kind known. Before the first configuration is read: the schema of them all is made once. */
export function registerBearerKind<Id extends BearerKindId>(kind: BearerKind<Id>): void {
  if (kinds.has(kind.id)) throw new Error(`there is a kind ${kind.id} already`);
  kinds.set(kind.id, kind as unknown as BearerKind<never>);
}

/** What is known of a kind; throws for one that nobody has registered. */
export function bearerKind<Id extends BearerKindId>(id: Id): BearerKind<Id> {
  const kind = kinds.get(id);
  if (!kind) throw new Error(`there is no kind ${id}`);
  return kind as unknown as BearerKind<Id>;
}

export const bearerKinds = (): readonly BearerKind[] => [...kinds.values()] as unknown as BearerKind[];

/** What a bearer carries. */
export const carriageOf = <Id extends BearerKindId>(config: BearerConfig<Id>): Carriage =>
  bearerKind(config.kind as Id).carriage(config);

/** Nothing stands between sessions, which somebody begins. */
export const inSessions = ({ sends }: Pick<BearerKind, 'sends'>): boolean => sends === 'messages' || sends === 'mail';

/** Whether texts by packet radio go out by it. */
export const sendsPackets = ({ kind }: { readonly kind: BearerKindId }): boolean =>
  bearerKind(kind).sends === 'packets';

/** Kinds that carry packets of their own: an answer to one of these comes back as a packet. */
export const packetKinds = (): string[] =>
  bearerKinds().flatMap(({ id, sends }) => (sends === 'packets' ? [id as string] : []));
