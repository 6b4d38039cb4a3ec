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

/** What comes in at one speed. Nothing is sent. */
async function listen(device: string, speedBd: number, listenMs: number): Promise<Uint8Array> {
  const line = openSerialLine({ device, speedBd });
  const chunks: Uint8Array[] = [];
  let octets = 0;
  line.stream.on('data', (chunk: Uint8Array) => {
    if (octets < MOST_OCTETS) chunks.push(Uint8Array.from(chunk));
    octets += chunk.length;
  });
  const down = new Promise<string | null>((resolve) => line.onDown(resolve));
  const up = new Promise<'up'>((resolve) => line.onUp(() => resolve('up')));
  const late = new Promise<'late'>((resolve) => setTimeout(() => resolve('late'), OPEN_WITHIN_MS).unref());
  const opened = await Promise.race([up, down, late]);
  if (opened !== 'up') {
    line.close();
    throw new ProblemError(
      409,
      'no-port',
      'The port cannot be opened',
      opened === 'late' ? `${device} did not open within 5 s.` : (opened ?? `${device} was closed.`),
    );
  }
  const pulled = await Promise.race([
    down.then((problem) => ({ problem })),
    new Promise<null>((resolve) => setTimeout(() => resolve(null), listenMs)),
  ]);
  if (pulled) throw new ProblemError(409, 'no-port', 'The port was lost', pulled.problem ?? `${device} was closed.`);
  line.close();
  await down;
  return joinOctets(chunks);
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
    const tried: TriedSpeed[] = [];
    for (const speedBd of SPEED_ORDER[talk]) {
      const judged = judgeLine(await listen(device, speedBd, listenMs), talk);
      tried.push({ speedBd, words: judgementWords(speedBd, listenMs / 1000, talk, judged), verdict: judged.verdict });
      if (judged.verdict === 'right') return { tried, foundBd: speedBd };
    }
    return { tried, foundBd: null };
  } finally {
    looking.delete(device);
  }
}
