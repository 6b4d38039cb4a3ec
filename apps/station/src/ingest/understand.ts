import { createHash } from 'node:crypto';
import {
  decodeFrame,
  decodeInformation,
  decodeMeshFrame,
  EVERYBODY,
  explainRoad,
  headOfFrame,
  linkFrameInWords,
  linkFrameMark,
  linkFrameOf,
  formatMonitorLine,
  latin1OfOctets,
  meshFrameLine,
  meshRoadInWords,
  MESH_HEADER_OCTETS,
  summaryOfMesh,
  innermostPacket,
  packetIdentity,
  packetOfFrame,
  parseMonitorLine,
  packetRoadInWords,
  pathInWords,
  summaryOf,
  textOfOctets,
  type Ax25Frame,
  type HeardPath,
  type Information,
  type LinkFrame,
  type MeshFrame,
  type Packet,
  type Parsed,
} from '@tombolo/core';
import type { Heard } from './heard';

/** A reception with all that the core can tell of it. */
export interface Understood {
  readonly heard: Heard;
  /** The packet as first sent (third-party wrappings taken off); null when not even a frame was understood. */
  readonly packet: Packet | null;
  /** The packet as it was heard, with its wrappings. */
  readonly outer: Packet | null;
  /** The frame, when it came over a mesh. */
  readonly mesh: MeshFrame | null;
  /** What is kept of whatever it was: who, to whom, and the octets between them; null when not even a frame was understood. */
  readonly head: {
    readonly source: string;
    readonly destination: string;
    readonly addressee: string | null;
    readonly info: Uint8Array;
  } | null;
  /** Told when it is asked for. */
  readonly identity: Buffer | null;
  readonly information: Information | null;
  readonly path: HeardPath | null;
  readonly kind: string;
  readonly summary: string;
  readonly words: string;
  readonly line: string;
  readonly error: { readonly at: number; readonly reason: string } | null;
}

const digest = (identity: string): Buffer => createHash('sha256').update(identity, 'latin1').digest().subarray(0, 16);

/** Identity as it is stored and compared: a digest, since information fields have no bounded length. */
export const identityDigest = (packet: Packet): Buffer => digest(packetIdentity(packet));

/** Read once: on its way in, or here. */
const frameOf = ({ frame, raw }: Pick<Heard, 'frame' | 'raw'>): Parsed<Ax25Frame> => frame ?? decodeFrame(raw);

/** The packet as it was heard, with its wrappings. */
export function packetOf(heard: Pick<Heard, 'form' | 'raw' | 'importId' | 'fault' | 'frame'>): Parsed<Packet> {
  if (heard.fault) return { ok: false, error: heard.fault };
  if (heard.form === 'line') return parseMonitorLine(heard.raw, { escapes: heard.importId !== null });
  if (heard.form === 'mesh') return { ok: false, error: { at: 0, reason: 'a frame of a mesh is no AX.25' } };
  const frame = frameOf(heard);
  return frame.ok ? packetOfFrame(frame.value) : frame;
}

/** A frame of a connection with its head as a packet without content; null for whatever is none. */
export function connectionOf({
  form,
  fault,
  ...heard
}: Pick<Heard, 'form' | 'raw' | 'fault' | 'frame'>): { readonly head: Packet; readonly link: LinkFrame } | null {
  if (form !== 'ax25' || fault) return null;
  const frame = frameOf(heard);
  const link = frame.ok ? linkFrameOf(frame.value) : frame;
  return frame.ok && link.ok ? { head: headOfFrame(frame.value), link: link.value } : null;
}

const connectionLine = (head: Packet, link: LinkFrame): string =>
  `${lineOf(head).replace(/:$/, '')} ${linkFrameMark(link)}`;

/** Identity of a frame of a connection: the same numbers and the same text from the same to the same. */
export const connectionIdentity = (source: string, destination: string, link: LinkFrame): Buffer =>
  digest(
    `connection/${source}>${destination}/${linkFrameMark(link)}/${latin1OfOctets('info' in link ? link.info : NO_OCTETS)}`,
  );
const NO_OCTETS = new Uint8Array();

/** A frame of a connection, of ours or of others: who sent it, over whom, and what it does. */
function understandConnection(heard: Heard, head: Packet, link: LinkFrame): Understood {
  const info = 'info' in link ? link.info : head.info;
  return {
    heard,
    packet: head,
    outer: head,
    mesh: null,
    head: { source: head.source, destination: head.destination, addressee: head.destination, info },
    identity: connectionIdentity(head.source, head.destination, link),
    information: null,
    path: explainRoad(head),
    kind: 'connection',
    summary: linkFrameInWords(link),
    words: packetRoadInWords(head),
    line: connectionLine(head, link),
    error: null,
  };
}

const notUnderstood = (heard: Heard, error: { readonly at: number; readonly reason: string }): Understood => ({
  heard,
  packet: null,
  outer: null,
  mesh: null,
  head: null,
  identity: null,
  information: null,
  path: null,
  kind: 'not understood',
  summary: error.reason,
  words: '',
  line: '',
  error,
});

const repeatable = (octets: Uint8Array): Uint8Array => {
  const same = octets.slice();
  same[MESH_HEADER_OCTETS - 1] = 0;
  return same;
};

/** A frame of a mesh, as far as anybody can read it: what is sealed stays so in the record of what was heard. */
function understandMesh(heard: Heard): Understood {
  const decoded = decodeMeshFrame(heard.raw);
  if (!decoded.ok) return notUnderstood(heard, decoded.error);
  const frame = decoded.value;
  const { kind, summary } = summaryOfMesh(frame);
  return {
    heard,
    packet: null,
    outer: null,
    mesh: frame,
    head: {
      source: frame.sender,
      destination: frame.addressee,
      addressee: frame.addressee === EVERYBODY ? null : frame.addressee,
      info: frame.body,
    },
    // All but the hops: under one number a liar may say something else.
    identity: digest(`mesh/${latin1OfOctets(repeatable(heard.raw))}`),
    information: null,
    path: null,
    kind,
    summary,
    words: meshRoadInWords(frame),
    line: meshFrameLine(frame, heard.raw),
    error: kind === 'not understood' ? { at: MESH_HEADER_OCTETS, reason: summary } : null,
  };
}

/** How octets came and as what line they read: what is told of a kept reception, and not kept beside its octets. */
export function understandRoad(
  heard: Pick<Heard, 'form' | 'raw' | 'importId'>,
): Pick<Understood, 'path' | 'mesh' | 'words' | 'line'> {
  if (heard.form === 'mesh') {
    const frame = decodeMeshFrame(heard.raw);
    if (!frame.ok) return { path: null, mesh: null, words: '', line: '' };
    return {
      path: null,
      mesh: frame.value,
      words: meshRoadInWords(frame.value),
      line: meshFrameLine(frame.value, heard.raw),
    };
  }
  const outer = packetOf(heard);
  const connection = outer.ok ? null : connectionOf(heard);
  if (connection) {
    const { head, link } = connection;
    return { path: explainRoad(head), mesh: null, words: packetRoadInWords(head), line: connectionLine(head, link) };
  }
  if (!outer.ok) return { path: null, mesh: null, words: '', line: '' };
  return {
    path: explainRoad(outer.value),
    mesh: null,
    words: packetRoadInWords(outer.value),
    line: lineOf(outer.value),
  };
}

const lineOf = (outer: Packet): string => textOfOctets(formatMonitorLine(outer, { escapes: true }));

/** Decodes a reception as far as it goes. Never throws. */
export function understand(heard: Heard): Understood {
  if (heard.form === 'mesh' && !heard.fault) return understandMesh(heard);
  const outer = packetOf(heard);
  if (!outer.ok) {
    const connection = connectionOf(heard);
    return connection
      ? understandConnection(heard, connection.head, connection.link)
      : notUnderstood(heard, outer.error);
  }
  return new UnderstoodPacket(heard, outer.value);
}

/** A class, since accessors of a prototype cost nothing for each of thousands. */
class UnderstoodPacket implements Understood {
  readonly packet: Packet;
  readonly mesh = null;
  readonly head: NonNullable<Understood['head']>;
  readonly information: Information | null;
  readonly path: HeardPath;
  readonly kind: string;
  readonly summary: string;
  readonly error: Understood['error'];
  private digested: Buffer | null = null;

  constructor(
    readonly heard: Heard,
    readonly outer: Packet,
  ) {
    const { packet } = innermostPacket(outer);
    const information = decodeInformation(packet.info, packet.destination);
    this.packet = packet;
    this.head = {
      source: packet.source,
      destination: packet.destination,
      addressee: information.ok && 'addressee' in information.value ? information.value.addressee : null,
      info: packet.info,
    };
    this.information = information.ok ? information.value : null;
    this.path = explainRoad(outer);
    this.kind = information.ok ? information.value.kind : 'not understood';
    this.summary = information.ok ? summaryOf(information.value) : information.error.reason;
    this.error = information.ok ? null : information.error;
  }

  get identity(): Buffer {
    return (this.digested ??= identityDigest(this.packet));
  }

  get words(): string {
    return this.outer === this.packet ? pathInWords(this.path) : packetRoadInWords(this.outer);
  }

  get line(): string {
    return lineOf(this.outer);
  }
}
