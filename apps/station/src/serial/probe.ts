import { joinOctets, judgeLine, judgementWords, SPEED_ORDER, type LineJudgement, type LineTalk } from '@tombolo/core';
import { openSerialLine } from '../bearers/serial-line';
import { ProblemError } from '../problem-error';

/** Long enough for two sentences of a receiver that talks once a second. */
const LISTEN_MS = 2000;
const OPEN_WITHIN_MS = 5000;
/** No line brings more in that time that would say anything new. */
const MOST_OCTETS = 64 * 1024;

export interface TriedSpeed {
  readonly speedBd: number;
  readonly words: string;
  readonly verdict: LineJudgement['verdict'];
}
export interface ProbeResult {
  readonly tried: readonly TriedSpeed[];
  /** The speed at which something made sense; null where none did. */
  readonly foundBd: number | null;
}

const problem = (title: string, words: string) => new ProblemError(409, 'no-port', title, words);
const after = <T>(ms: number, value: T) => new Promise<T>((resolve) => setTimeout(() => resolve(value), ms).unref());

/**
 * A device that is listened to, at one speed after the other. It stays open meanwhile: closed and opened again, it could be taken by another
 * program, or still be held by a process that this one was just starting.
 */
async function listenTo(device: string, speedBd: number) {
  const line = openSerialLine({ device, speedBd });
  const down = new Promise<string | null>((resolve) => line.onDown(resolve));
  const lost = down.then((words) => ({ words: words ?? `${device} was closed.` }));
  const opened = await Promise.race([
    lost,
    new Promise<'up'>((resolve) => line.onUp(() => resolve('up'))),
    after(OPEN_WITHIN_MS, { words: `${device} did not open within 5 s.` }),
  ]);
  if (opened !== 'up') {
    line.close();
    throw problem('The port cannot be opened', opened.words);
  }
  let chunks: Uint8Array[] = [];
  let octets = 0;
  line.stream.on('data', (chunk: Uint8Array) => {
    if (octets < MOST_OCTETS) chunks.push(Uint8Array.from(chunk));
    octets += chunk.length;
  });
  return {
    /** What comes in at one speed. Nothing is sent. */
    async hear(atBd: number, listenMs: number): Promise<Uint8Array> {
      const set = await Promise.race([
        lost,
        line.setSpeed(atBd).then(
          () => 'set' as const,
          (error: Error) => ({ words: error.message }),
        ),
        after(OPEN_WITHIN_MS, { words: `${device} did not take ${atBd} Bd within 5 s.` }),
      ]);
      if (set !== 'set') throw problem('The port was lost', set.words);
      [chunks, octets] = [[], 0];
      const pulled = await Promise.race([lost, after(listenMs, null)]);
      if (pulled) throw problem('The port was lost', pulled.words);
      return joinOctets(chunks);
    },
    async close() {
      line.close();
      await down;
    },
  };
}

/** One look at a device at a time: two would read each other's octets away. */
const looking = new Set<string>();

/**
 * Tries the speeds of a serial line in their order until something makes sense. Listens only: a modem is silent while nobody is heard, so
 * nothing found says little.
 */
export async function probeSpeeds(device: string, talk: LineTalk, listenMs = LISTEN_MS): Promise<ProbeResult> {
  if (looking.has(device))
    throw new ProblemError(409, 'looking', 'It is being looked at already', `${device} is tried out by somebody else.`);
  looking.add(device);
  try {
    const line = await listenTo(device, SPEED_ORDER[talk][0]!);
    try {
      const tried: TriedSpeed[] = [];
      for (const speedBd of SPEED_ORDER[talk]) {
        const judged = judgeLine(await line.hear(speedBd, listenMs), talk);
        tried.push({ speedBd, words: judgementWords(speedBd, listenMs / 1000, talk, judged), verdict: judged.verdict });
        if (judged.verdict === 'right') return { tried, foundBd: speedBd };
      }
      return { tried, foundBd: null };
    } finally {
      await line.close();
    }
  } finally {
    looking.delete(device);
  }
}
