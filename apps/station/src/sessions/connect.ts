import { AlreadyConnected, LinkError, type LinkStream } from '@tombolo/link-stream';
import { Dialogue } from './dialogue';
import type { SessionContext } from './session';

/**
 * Pauses before a refused connection is tried again, s. A station whose last acknowledgement of an earlier connection
 * was lost on the air still waits for it, and answers DM until its own tries are over (AX.25 v2.2 §6.3.4, appendix C4.3
 * "awaiting release").
 */
const AGAIN_AFTER_S = [5, 15] as const;

/** Longer than all tries to take a connection down last, ms. */
const TAKEN_DOWN_WITHIN_MS = 120_000;
const LOOK_EVERY_MS = 500;

/** A connection of ours that was given up stands until the other side has heard so, or no longer answers: that is waited for. */
async function connection(context: SessionContext, call: string): Promise<LinkStream> {
  for (let waitedMs = 0; ; waitedMs += LOOK_EVERY_MS) {
    try {
      return context.connect();
    } catch (error) {
      if (!(error instanceof AlreadyConnected) || waitedMs >= TAKEN_DOWN_WITHIN_MS) throw error;
      if (waitedMs === 0) context.stage(`the last connection to ${call} is being taken down`);
      await context.pause(LOOK_EVERY_MS);
      if (context.stopped()) throw error;
    }
  }
}

/** Connects to `call` and opens the conversation with it; throws in words when it takes no connection, or does not answer. */
export async function connectTo(context: SessionContext, call: string): Promise<Dialogue> {
  for (const againAfterS of [...AGAIN_AFTER_S, null]) {
    const stream = await connection(context, call);
    context.stage(`connecting to ${call}`);
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
