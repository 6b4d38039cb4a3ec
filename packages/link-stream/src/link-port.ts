import {
  addressLinkFrame,
  decodeFrame,
  encodeFrame,
  formatAddress,
  LINK_DEFAULTS,
  linkFrameOf,
  parseAddress,
  sameAddress,
  stepLink,
  linkDown,
  type Address,
  type LinkFrame,
  type LinkParameters,
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
  /** A frame from the channel; true when it belonged to a connection of ours. */
  receive(frame: Uint8Array): boolean;
  /** Connects; the stream emits `connect`, or fails. Throws when the addresses cannot be used or we are connected to it already. */
  connect(peer: string, path: readonly string[]): LinkStream;
  connections(): readonly LinkStream[];
  /** Ends all connections at once. */
  stop(): void;
}

/** All connections of one call sign on one channel. */
export function createLinkPort(options: LinkPortOptions): LinkPort {
  const streams = new Map<string, LinkStream>();
  const base = { ...LINK_DEFAULTS, ...options.parameters };

  const transmit = (from: Address, to: Address, path: readonly Address[], frame: LinkFrame, refusal: boolean) => {
    const octets = encodeFrame(addressLinkFrame(from, to, path, frame));
    if (octets.ok) options.send(octets.value, { peer: formatAddress(to), refusal });
  };
  const open = (own: Address, peer: Address, path: readonly Address[]): LinkStream => {
    const name = formatAddress(peer);
    const key = `${formatAddress(own)}/${name}`;
    const stream: LinkStream = new LinkStream({
      peer: name,
      clock: options.clock,
      parameters: { ...base, digipeaters: path.length },
      send: (frame) => transmit(own, peer, path, frame, false),
      onEnd: () => {
        if (streams.get(key) === stream) streams.delete(key);
      },
    });
    streams.set(key, stream);
    // Whoever holds the stream hears of its failure; one that nobody holds must not end the program.
    stream.on('error', () => undefined);
    return stream;
  };

  return {
    receive(octets) {
      const own = parseAddress(options.call() ?? '');
      const frame = decodeFrame(octets);
      if (!own.ok || !frame.ok || !sameAddress(frame.value.destination, own.value)) return false;
      if (frame.value.repeaters.some((hop) => !hop.repeated)) return false;
      const link = linkFrameOf(frame.value);
      if (!link.ok) return false;
      const { source } = frame.value;
      const key = `${formatAddress(own.value)}/${formatAddress(source)}`;
      const back = [...frame.value.repeaters].reverse();
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
      if (streams.has(key)) throw new Error(`there is a connection to ${formatAddress(peer.value)} already`);
      const stream = open(own.value, peer.value, hops);
      stream.handle({ kind: 'connect' });
      return stream;
    },
    connections: () => [...streams.values()],
    stop: () => [...streams.values()].forEach((stream) => stream.destroy()),
  };
}
