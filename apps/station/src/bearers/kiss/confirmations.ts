import type { Taken } from '../../transmissions/taken';

/** Numbers go round; this many can be open at once. */
const NUMBERS = 0x10000;
/** Beyond the air time of a frame: other stations may hold the channel. */
const GRACE_MS = 30_000;

/** Frames that wait for the modem's word that they were sent, by the number that went with each. */
export function createConfirmations() {
  const waiting = new Map<number, (taken: Taken) => void>();
  let next = 0;
  return {
    /** A number for the next frame, as two octets. */
    number(): number {
      do next = (next + 1) % NUMBERS;
      while (waiting.has(next));
      return next;
    },
    /** Waits for the modem's word. */
    of(number: number, airMs: number): Promise<Taken> {
      return new Promise((resolve) => {
        const late = setTimeout(() => {
          waiting.delete(number);
          resolve({
            verdict: 'unknown',
            words: 'the modem did not confirm that it sent it: it may or may not have been transmitted',
          });
        }, airMs + GRACE_MS);
        waiting.set(number, (taken) => {
          waiting.delete(number);
          clearTimeout(late);
          resolve(taken);
        });
      });
    },
    /** The modem said that a frame was sent. */
    confirmed(number: number): void {
      waiting.get(number)?.({ verdict: 'confirmed', words: 'the modem confirmed that it sent it' });
    },
    /** The connection is gone: nobody will say any more. */
    lost(): void {
      for (const resolve of [...waiting.values()])
        resolve({
          verdict: 'unknown',
          words: 'the modem was lost before it confirmed that it sent it: it may or may not have been transmitted',
        });
    },
  };
}
