import { openBits, probeBits, PROBE_TEXT } from '@tombolo/core';
import type { WaysQuestion, WaysView } from '@tombolo/contract';
import type { Candidate } from './candidate';

/** What tells less is not worth the channel (common practice, no source). */
const LEAST_BITS = 0.1;
const LEAST_SETTLED = 0.05;
/** A text that takes hardly more than the question tells the same by itself. */
const LEAST_SAVED = 1.5;

/**
 * The question to the far set that would tell most of the ways to it for each second of channel; null where all is known well enough, where
 * the text itself is as cheap, or where it is urgent, for then the text is sent.
 */
export function askFirst(
  candidates: readonly Candidate[],
  { precedence, text }: Pick<WaysQuestion, 'precedence' | 'text'>,
): WaysView['askFirst'] {
  if (precedence === 'priority' || precedence === 'emergency') return null;
  const askable = candidates.flatMap((candidate) =>
    candidate.askable ? [{ candidate, asked: candidate.askable }] : [],
  );
  const told = askable
    .filter(({ candidate, asked }) => text === '' || candidate.airS >= LEAST_SAVED * asked.questionS)
    .map(({ candidate, asked }) => {
      const { to, way } = candidate.send;
      // One address by one bearer is one set.
      const ways = askable
        .filter(({ candidate: { send } }) => send.to === to && send.way.bearerId === way.bearerId)
        .map((one) => one.asked.probed);
      const bits = probeBits(asked.answers, asked.probed, ways);
      const settles = Math.min(1, bits / openBits(asked.answers, ways));
      return { candidate, airS: asked.questionS + asked.answerS, bits, settles, count: ways.length };
    })
    .filter(({ bits, settles }) => bits >= LEAST_BITS && settles >= LEAST_SETTLED)
    .sort((a, b) => b.bits / b.airS - a.bits / a.airS);
  const [best] = told;
  if (!best) return null;
  const { candidate, airS, settles, count } = best;
  return {
    title: candidate.title,
    text: PROBE_TEXT,
    airS,
    settles,
    ways: count,
    send: { ...candidate.send, inParts: false },
  };
}
