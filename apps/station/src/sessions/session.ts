import type { BearerConfig, NewSession, newSession } from '@tombolo/contract';
import type { LinkStream } from '@tombolo/link-stream';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';

/** What a session does for one kind of bearer; it throws in words when it cannot go on. */
export interface SessionContext {
  readonly id: string;
  readonly bearerId: string;
  readonly database: DataSource;
  readonly now: () => Date;
  readonly own: string;
  readonly request: z.output<typeof newSession>;
  readonly connect: () => LinkStream;
  /** The packet on record of the frame that brought the last of what the other side said; null when it is not stored in time. */
  readonly proof: () => Promise<string | null>;
  /** Tells what is being done, and how far it is. */
  readonly stage: (words: string, totalOctets?: number) => void;
  readonly done: (octets: number) => void;
  readonly text: (text: string) => void;
  readonly stopped: () => boolean;
  /** Waits, and no longer than until the session is stopped. */
  readonly pause: (ms: number) => Promise<void>;
}

export type BoardConfig = BearerConfig<'board'>;
export type MailConfig = BearerConfig<'radio-mail'>;
export type { NewSession };
