import {
  arrivalOf,
  beliefOf,
  connectionSeconds,
  learned,
  octetsOfText,
  spreadOf,
  tried,
  type Arrival,
  type Belief,
  type RetryPolicy,
  type Tried,
} from '@tombolo/core';
import type { Carriage } from '@tombolo/contract';
import { beyondBoard } from './beyond-board';
import type { Candidate } from './candidate';
import type { OwnTries } from './own-tries';

/** What is not seen by us: chances and times as they are usual (common practice, no source). */
export const BEYOND = {
  phone: {
    arrival: arrivalOf([
      { atS: 20, chance: 0.5 },
      { atS: 120, chance: 0.25 },
      { atS: 900, chance: 0.1 },
    ]),
    words: 'From the gateway on it is not seen by us: a guess of 85 of 100.',
  },
  mail: {
    arrival: arrivalOf([
      { atS: 60, chance: 0.5 },
      { atS: 900, chance: 0.25 },
      { atS: 7200, chance: 0.15 },
    ]),
    words: 'From the mail relay on it is not seen by us: a guess of 90 of 100.',
  },
} as const satisfies Record<string, { arrival: Arrival; words: string }>;

export interface SessionTo {
  readonly bearerId: string;
  readonly bearerName: string;
  readonly carriage: Extract<Carriage, { what: 'messages' | 'mail' }>;
  readonly to: string;
  readonly text: string;
  readonly retry: RetryPolicy;
  readonly deadlineS: number | null;
  readonly held: OwnTries;
  readonly nowMs: number;
}

/** Sessions that somebody begins with a station that answers: before any was held. */
const SESSION: Belief = beliefOf(0.6, 2);
/** Headers and handshakes around a text. */
const SESSION_OCTETS = 400;

/** If it works at all; sessions share no link with others. */
const meanChance = ({ arrivesDraws }: Pick<Tried, 'arrivesDraws'>): number => spreadOf(arrivesDraws).chance;

/** What is left at a board or handed to a mail gateway, in a session that is begun at once. */
export function bySession(session: SessionTo): Candidate {
  const { carriage, held } = session;
  const isMail = carriage.what === 'mail';
  const there = learned(SESSION, held.weight.answered, held.weight.unanswered);
  const takesS = connectionSeconds(octetsOfText(session.text).length + SESSION_OCTETS, carriage.path.length);
  // What a session took is known for sure: there is no way back that could fail.
  const outcome = tried(there, beliefOf(1, 1e6), {
    retry: session.retry,
    tries: 1,
    overDigipeaters: carriage.path.length > 0,
    queueS: 0,
    airS: takesS,
    repeatsS: 0,
    deadlineS: session.deadlineS,
  });
  const beyond = carriage.what === 'mail' ? BEYOND.mail : beyondBoard(session.to, carriage, session.nowMs);
  return {
    id: `${session.bearerId}/${session.to}`,
    title: isMail
      ? `Mail to ${session.to} over ${carriage.call}`
      : `A message for ${session.to} at the board ${carriage.call}`,
    how: isMail ? `as mail in a session with ${carriage.call}` : `as a message left at ${carriage.call} in a session`,
    holder: { name: carriage.call, beyond },
    arrival: outcome.arrival,
    arrives: outcome.arrives,
    together: {
      causes: new Map([[`beyond ${carriage.call}`, beyond.arrival.chance]]),
      draws: [meanChance(outcome)],
    },
    proof: outcome.proven && { rung: 'accepted', proven: outcome.proven, by: `${carriage.call}, which takes it` },
    airS: outcome.airS,
    works: null,
    answer: null,
    reckoned: null,
    rests: [],
    tries: held,
    otherwise: `no session with ${carriage.call} was held yet`,
    silences: [],
    cautions: ['It waits until somebody holds the session: the times count from when you begin it.', beyond.words],
    send: {
      way: isMail ? { by: 'mail', bearerId: session.bearerId } : { by: 'messages', bearerId: session.bearerId },
      to: session.to,
      inParts: false,
      command: null,
      broughtBy: null,
    },
    askable: null,
  };
}
