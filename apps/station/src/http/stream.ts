import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setImmediate } from 'node:timers/promises';
import type { Response } from 'express';

const TOGETHER_OCTETS = 16 * 1024;

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
  // Many small pieces would keep the one thread busy without a break: some are sent together, and others get a turn between.
  const all = async function* () {
    let together: Buffer[] = [];
    let octets = 0;
    for (let next = first; !next.done; next = await iterator.next()) {
      const piece = Buffer.from(next.value);
      together.push(piece);
      octets += piece.length;
      if (octets < TOGETHER_OCTETS) continue;
      yield Buffer.concat(together);
      together = [];
      octets = 0;
      await setImmediate();
    }
    if (together.length > 0) yield Buffer.concat(together);
  };
  await pipeline(Readable.from(all()), response);
}
