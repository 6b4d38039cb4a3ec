import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Response } from 'express';

/**
 * Sends what comes in pieces. The first is waited for before anything is sent: what fails there is answered with a problem, not with a
 * connection that breaks.
 */
export async function sendPieces(
  response: Response,
  pieces: AsyncIterable<Uint8Array | string>,
  head: () => void,
): Promise<void> {
  const iterator = pieces[Symbol.asyncIterator]();
  const first = await iterator.next();
  head();
  const all = async function* () {
    if (first.done) return;
    yield first.value;
    for (;;) {
      const next = await iterator.next();
      if (next.done) return;
      yield next.value;
    }
  };
  await pipeline(Readable.from(all()), response);
}
