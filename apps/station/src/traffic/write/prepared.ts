import type { Carriage, Content, CONTENTS_OF, Settings, Way, WrittenItem } from '@tombolo/contract';
import type { EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import type { ItemRow, LegDetail } from '../../store/entities';

type By = Way['by'];
type ContentOf<W extends By> = Extract<Content, { is: (typeof CONTENTS_OF)[W][number] }>;

/** What was written for one way, with what its bearer carries. */
export interface Written<W extends By> {
  readonly item: WrittenItem;
  /** The address on that way; null for everybody. */
  readonly address: string | null;
  readonly content: ContentOf<W>;
  readonly way: Extract<Way, { by: W }>;
  readonly carriage: Extract<Carriage, { what: W }>;
  readonly settings: Settings;
  /** Our own call; empty where none is needed and none is set. */
  readonly own: string;
  readonly at: Date;
}

export interface Attachment {
  readonly name: string;
  readonly type: string;
  readonly content: Buffer;
}

/** What becomes of it: the item as far as the way shapes it, and its transmission. */
export interface Prepared {
  readonly item: Pick<ItemRow, 'kind' | 'sender' | 'addressee' | 'body'> &
    Partial<Pick<ItemRow, 'subject' | 'cc' | 'number' | 'acknowledgementAsked'>>;
  readonly attachments?: readonly Attachment[];
  readonly leg: {
    /** Where they are not those of the item. */
    readonly from?: string;
    readonly to?: string;
    readonly path: readonly string[];
    readonly info: Uint8Array;
    /** One try is all. */
    readonly once?: boolean;
    readonly detail?: LegDetail;
    readonly note?: string;
  };
}

/** How something is written for a way; refuses in words what cannot be sent. */
export type Prepare<W extends By> = (manager: EntityManager, written: Written<W>) => Promise<Prepared> | Prepared;

/** An address that the contract asks for. */
export function addressed({ address }: { readonly address: string | null }): string {
  if (address === null)
    throw new ProblemError(422, 'no-address', 'It is addressed to nobody', 'That way needs an address.');
  return address;
}
