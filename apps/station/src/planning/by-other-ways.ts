import {
  aboutTime,
  arrivalOf,
  beliefOf,
  connectionSeconds,
  learned,
  meanOf,
  meshAirTimeMs,
  meshTextFrameOctets,
  mostMeshTextOctets,
  octetsOfText,
  sharedOut,
  splitText,
  spreadOf,
  tried,
  weightOf,
  worksAtAll,
  type Arrival,
  type Belief,
  type RetryPolicy,
  type Tried,
} from '@tombolo/core';
import type { Carriage } from '@tombolo/contract';
import { beyondBoard } from './beyond-board';
import type { Candidate, Excluded } from './candidate';
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

export interface MeshTo {
  readonly bearerId: string;
  readonly carriage: Extract<Carriage, { what: 'texts' }>;
  readonly node: string;
  readonly tag: string;
  readonly text: string;
  readonly hops: number | null;
  readonly lastAgoS: number | null;
  readonly retry: RetryPolicy;
  readonly deadlineS: number | null;
  readonly queueS: number;
  readonly leftOfHourS: number | null;
  readonly tries: OwnTries;
}

/** A hop of the mesh by which a node was heard carries so many of a hundred (common practice, no source). */
const MESH_HOP = 0.8;
/** A node that was not heard of late, or never. */
const MESH_SILENT = 0.15;
const MESH_HALF_LIFE_S = 2 * 3600;
const MESH_STRENGTH = 3;

/** A text to a node of the mesh, on the first channel. */
export function byMesh(mesh: MeshTo): { readonly candidates: Candidate[]; readonly excluded: Excluded[] } {
  const title = `Mesh, to node ${mesh.tag}`;
  const channel = mesh.carriage.channels[0];
  const { radio } = mesh.carriage;
  const exclude = (reason: string, remedy: string) => ({ candidates: [], excluded: [{ title, reason, remedy }] });
  if (!channel || !radio) return exclude('No frequency is set for the mesh.', 'Set it under Bearers.');
  const most = mostMeshTextOctets(channel.sealed);
  const split = octetsOfText(mesh.text).length <= most ? null : splitText(mesh.text, 'a', most);
  if (split && !split.ok)
    return exclude('The text is too long even for nine parts.', 'Make it shorter, or send it as mail.');
  const texts = split?.ok ? split.value : [mesh.text];
  const airS = texts.reduce(
    (sum, one) => sum + meshAirTimeMs(meshTextFrameOctets(one, channel.sealed), radio) / 1000,
    0,
  );
  if (mesh.leftOfHourS !== null && airS > mesh.leftOfHourS)
    return exclude(
      `It needs ${airS.toFixed(1)} s on the air, and ${mesh.leftOfHourS.toFixed(1)} s of the hour are left.`,
      'It can go when what was sent is an hour old.',
    );
  const fresh = mesh.lastAgoS === null ? 0 : weightOf(mesh.lastAgoS, MESH_HALF_LIFE_S);
  const heard = MESH_HOP ** (1 + (mesh.hops ?? 1));
  const belief = beliefOf(MESH_SILENT + (heard - MESH_SILENT) * fresh, MESH_STRENGTH);
  const shared = sharedOut({ there: belief, back: belief }, mesh.tries.weight.answered, mesh.tries.weight.unanswered);
  const over = mesh.hops ?? 1;
  const works = worksAtAll(mesh.tries.weight, meanOf(shared.there) * meanOf(shared.back));
  const outcome = tried(shared.there, shared.back, {
    retry: mesh.retry,
    tries: mesh.retry.tries,
    overDigipeaters: false,
    queueS: mesh.queueS,
    airS,
    repeatsS: airS * over,
    deadlineS: mesh.deadlineS,
    parts: texts.length,
    works,
  });
  return {
    excluded: [],
    candidates: [
      {
        id: `${mesh.bearerId}/${mesh.node}`,
        title,
        how: `by mesh to node ${mesh.tag}${mesh.hops === null ? '' : mesh.hops === 0 ? ', in direct reach when it was heard' : `, heard over ${mesh.hops} ${mesh.hops === 1 ? 'hop' : 'hops'}`}`,
        holder: { name: mesh.tag, beyond: null },
        arrival: outcome.arrival,
        arrives: outcome.arrives,
        together: { causes: new Map([[`node ${mesh.node}`, works]]), draws: [meanChance(outcome)] },
        proof: outcome.proven && {
          rung: 'delivered',
          proven: outcome.proven,
          by: `an acknowledgement from node ${mesh.tag}`,
        },
        airS: outcome.airS,
        works,
        answer: null,
        reckoned: null,
        rests: [],
        tries: mesh.tries,
        otherwise:
          mesh.lastAgoS === null
            ? `node ${mesh.tag} was not heard yet`
            : `node ${mesh.tag} was heard ${aboutTime(mesh.lastAgoS)} ago`,
        silences: [],
        cautions: mesh.lastAgoS === null || fresh < 0.1 ? ['That node was not heard of late.'] : [],
        send: {
          way: { by: 'texts', bearerId: mesh.bearerId, channel: channel.name },
          to: mesh.node,
          inParts: texts.length > 1,
          command: null,
          broughtBy: null,
        },
        askable: null,
      },
    ],
  };
}

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

/** If it works at all; the mesh and sessions share no link with others. */
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
