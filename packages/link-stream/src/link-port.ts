import {
  addressLinkFrame,
  CONTROL_UI,
  decodeFrame,
  decodeXid,
  encodeFrame,
  encodeXid,
  formatAddress,
  frameRole,
  LINK_DEFAULTS,
  linkFrameOf,
  parseAddress,
  sameAddress,
  stepLink,
  linkDown,
  type Address,
  type Ax25Frame,
  type LinkFrame,
  type LinkParameters,
  type Parsed,
} from '@tombolo/core';
import type { Clock } from './clock';
import { LinkStream } from './link-stream';

export interface LinkPortOptions {
  /** Own call with SSID; asked for at each use, since an operator may change it. */
  readonly call: () => string | null;
  /**
   * Takes a frame without FCS to the modem. `refusal` marks what answers a station that we have no connection with: it was caused by
   * whoever is on the air, not by us.
   */
  readonly send: (frame: Uint8Array, about: { readonly peer: string; readonly refusal: boolean }) => void;
  readonly clock: Clock;
  readonly parameters?: Partial<LinkParameters>;
  /** Somebody connects; without it every connection is refused. */
  readonly onIncoming?: (stream: LinkStream) => void;
  /** More connections than this are refused. */
  readonly mostConnections?: number;
}

export interface LinkPort {
  /** A frame from the channel, with what was read of it where somebody has; true when it belonged to a connection of ours. */
  receive(octets: Uint8Array, frame?: Parsed<Ax25Frame>): boolean;
  /** Connects; the stream emits `connect`, or fails. Throws when the addresses cannot be used, or `AlreadyConnected`. */
  connect(peer: string, path: readonly string[]): LinkStream;
  connections(): readonly LinkStream[];
  /** Ends all connections at once. */
  stop(): void;
}

/** There is a connection with that station already, or one that was given up here and is still being taken down. */
export class AlreadyConnected extends Error {
  constructor(peer: string) {
    super(`there is a connection to ${peer} already`);
  }
}

/** Offers of stations that never connect are not collected without end. */
const MOST_OFFERS = 50;

/** All connections of one call sign on one channel. */
export function createLinkPort(options: LinkPortOptions): LinkPort {
  const streams = new Map<string, LinkStream>();
  const base = { ...LINK_DEFAULTS, ...options.parameters };

  const transmit = (from: Address, to: Address, path: readonly Address[], frame: LinkFrame, refusal: boolean) => {
    const octets = encodeFrame(addressLinkFrame(from, to, path, frame));
    if (octets.ok) options.send(octets.value, { peer: formatAddress(to), refusal });
  };
  /** Stations that offered SREJ, until their connection is over. */
  const selective = new Set<string>();
  const POLL = 0x10;
  /**
   * What is answered without a connection: TEST with its own octets, XID with what we offer (v2.2 §4.3.3.7, §4.3.3.8), and a UI
   * command that polls (appendix C4: DM, or RR where there is a connection). True when the frame is done with.
   */
  const answerOutside = (own: Address, frame: Ax25Frame, key: string, back: readonly Address[]): boolean => {
    const { source } = frame;
    if ((frame.control & ~POLL) === CONTROL_UI) {
      if ((frame.control & POLL) === 0 || frameRole(frame) !== 'command') return false;
      const stream = streams.get(key);
      if (stream) stream.handle({ kind: 'polled' });
      else transmit(own, source, back, { type: 'DM', command: false, pollFinal: true }, true);
      // The packet in it is heard like any other.
      return false;
    }
    const link = linkFrameOf(frame);
    if (!link.ok || (link.value.type !== 'XID' && link.value.type !== 'TEST')) return false;
    const { type, command, pollFinal, info } = link.value;
    // A response belongs to a question of ours, and we ask none.
    if (!command) return true;
    if (type === 'TEST') {
      const echoed = info.length <= base.paclen ? info : new Uint8Array(0);
      transmit(own, source, back, { type, command: false, pollFinal, info: echoed }, true);
      return true;
    }
    const offer = decodeXid(info);
    if (!offer.ok) return true;
    if (offer.value.selectiveReject && selective.size < MOST_OFFERS) selective.add(key);
    else selective.delete(key);
    streams.get(key)?.handle({ kind: 'negotiated', selective: selective.has(key) });
    const ours = encodeXid({
      selectiveReject: offer.value.selectiveReject,
      // More could not be told from copies when single frames are asked for.
      window: Math.min(4, base.window),
      fieldOctets: base.paclen,
    });
    transmit(own, source, back, { type: 'XID', command: false, pollFinal, info: ours }, true);
    return true;
  };
  const open = (own: Address, peer: Address, path: readonly Address[]): LinkStream => {
    const name = formatAddress(peer);
    const key = `${formatAddress(own)}/${name}`;
    const stream: LinkStream = new LinkStream({
      peer: name,
      clock: options.clock,
      parameters: { ...base, digipeaters: path.length, selective: selective.has(key) },
      send: (frame) => transmit(own, peer, path, frame, false),
      onEnd: () => {
        if (streams.get(key) !== stream) return;
        streams.delete(key);
        selective.delete(key);
      },
    });
    streams.set(key, stream);
    // Whoever holds the stream hears of its failure; one that nobody holds must not end the program.
    stream.on('error', () => undefined);
    return stream;
  };

  return {
    receive(octets, frame = decodeFrame(octets)) {
      const own = parseAddress(options.call() ?? '');
      if (!own.ok || !frame.ok || !sameAddress(frame.value.destination, own.value)) return false;
      if (frame.value.repeaters.some((hop) => !hop.repeated)) return false;
      const { source } = frame.value;
      const key = `${formatAddress(own.value)}/${formatAddress(source)}`;
      const back = [...frame.value.repeaters].reverse();
      if (answerOutside(own.value, frame.value, key, back)) return true;
      const link = linkFrameOf(frame.value);
      if (!link.ok) return false;
      const known = streams.get(key);
      if (known) known.handle({ kind: 'frame', frame: link.value });
      // The other side started anew: its program ended without a word. The old connection is over, and it may have a new one.
      const anew = known !== undefined && link.value.type === 'SABM' && streams.get(key) !== known;
      if (known && !anew) return true;
      if (link.value.type === 'SABM' && options.onIncoming && streams.size < (options.mostConnections ?? 20)) {
        const stream = open(own.value, source, back);
        stream.once('connect', () => options.onIncoming!(stream));
        stream.handle({ kind: 'frame', frame: link.value });
      } else if (link.value.type === 'SABM' && link.value.command) {
        transmit(own.value, source, back, { type: 'DM', command: false, pollFinal: link.value.pollFinal }, true);
      } else {
        const parameters = { ...base, digipeaters: back.length };
        const { frames } = stepLink(
          linkDown(parameters),
          { kind: 'frame', frame: link.value },
          parameters,
          options.clock.now(),
        );
        for (const answer of frames) transmit(own.value, source, back, answer, true);
      }
      return true;
    },
    connect(peerCall, path) {
      const own = parseAddress(options.call() ?? '');
      const peer = parseAddress(peerCall);
      if (!own.ok) throw new Error(`the own call cannot be used: ${own.error.reason}`);
      if (!peer.ok) throw new Error(`${peerCall} cannot be connected: ${peer.error.reason}`);
      const hops = path.map((element) => {
        const hop = parseAddress(element);
        if (!hop.ok) throw new Error(`${element}: ${hop.error.reason}`);
        return hop.value;
      });
      const key = `${formatAddress(own.value)}/${formatAddress(peer.value)}`;
      if (streams.has(key)) throw new AlreadyConnected(formatAddress(peer.value));
      const stream = open(own.value, peer.value, hops);
      stream.handle({ kind: 'connect' });
      return stream;
    },
    connections: () => [...streams.values()],
    stop: () => [...streams.values()].forEach((stream) => stream.destroy()),
  };
}
