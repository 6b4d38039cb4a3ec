import { LinkError } from '@tombolo/link-stream';
import { Dialogue } from './dialogue';
import type { SessionContext } from './session';

/**
 * Pauses before a refused connection is tried again, s. A station whose last acknowledgement of an earlier connection
 * was lost on the air still waits for it, and answers DM until its own tries are over (AX.25 v2.2 §6.3.4, appendix C4.3
 * "awaiting release").
 */
const AGAIN_AFTER_S = [5, 15] as const;

/** Connects to `call` and opens the conversation with it; throws in words when it takes no connection, or does not answer. */
export async function connectTo(context: SessionContext, call: string): Promise<Dialogue> {
  for (const againAfterS of [...AGAIN_AFTER_S, null]) {
    context.stage(`connecting to ${call}`);
    const stream = context.connect();
    try {
      return await Dialogue.open(stream, {
        onText: context.text,
        onProgress: () => context.done(stream.received + stream.acknowledged),
      });
    } catch (error) {
      const refused = error instanceof LinkError && error.reason === 'refused';
      if (!refused || againAfterS === null) throw error;
      context.stage(`${call} takes no connection now; trying again in ${againAfterS} s`);
      await context.pause(againAfterS * 1000);
      if (context.stopped()) throw error;
    }
  }
  throw new Error(`${call} takes no connection`);
}
