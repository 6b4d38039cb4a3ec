import type { BearerConfig } from '@tombolo/contract';
import { runBoardSession } from './board/board-session';
import { runMailSession } from './mail/mail-session';
import type { SessionContext } from './session';

/** Whom a session is held with, and what is done in it. */
export interface Called {
  readonly over: string;
  readonly call: string;
  readonly path: readonly string[];
  run(context: SessionContext): Promise<void>;
}

const CALLED: { readonly [Kind in 'board' | 'radio-mail']: (config: BearerConfig<Kind>) => Called } = {
  board: (config) => ({ ...config, run: (context) => runBoardSession(context, config) }),
  'radio-mail': (config) => ({ ...config, run: (context) => runMailSession(context, config) }),
};

/** What a session with a bearer would be; null for those that no sessions are held with. */
export function calledBy(config: BearerConfig): Called | null {
  const called = (CALLED as Partial<Record<string, (config: BearerConfig) => Called>>)[config.kind];
  return called?.(config) ?? null;
}
