import {
  decodeFrame,
  formatMonitorLine,
  packetIdentity,
  packetOfFrame,
  textOfOctets,
  type Packet,
} from '@tombolo/core';

/** One transmission as it happened on the air of the simulated world. */
export interface Happened {
  readonly endedAtMs: number;
  /** Which radio it was: not what the packet says. */
  readonly by: string;
  readonly line: string;
  readonly identity: string;
  readonly packet: Packet;
  readonly receivedBy: readonly string[];
}

/** What really happened: every transmission, whoever claims what in it. */
export interface WorldRecord {
  note(by: string, frame: Uint8Array, receivedBy: readonly string[], endedAtMs: number): void;
  /** The transmission that a copy received by a radio was, the latest that fits. */
  transmissionOf(line: string, receiver: string, heardAtMs: number): Happened | undefined;
  /** Transmissions of the same packet up to one, in the time in which its copies go round. */
  before(transmission: Happened): readonly Happened[];
  /** The transmission that the copies of this packet go back to, however often it was sent anew meanwhile. */
  originOf(transmission: Happened): Happened;
  of(identity: string): readonly Happened[];
  /** Transmissions with this information field, whatever source they bear. */
  withInfo(info: string): readonly Happened[];
  /** How often a radio sent exactly this. */
  byRadio(by: string, line: string): number;
  readonly count: () => number;
}

/** Copies of a packet go round for less than this. */
const GOES_ROUND_MS = 60_000;
/** The clocks of a paced world and of a station move in steps. */
const STEP_MS = 30_000;

export function createRecord(): WorldRecord {
  const byIdentity = new Map<string, Happened[]>();
  const byLine = new Map<string, Happened[]>();
  const byInfo = new Map<string, Happened[]>();
  let count = 0;
  const add = (map: Map<string, Happened[]>, key: string, one: Happened) => {
    const known = map.get(key);
    if (known) known.push(one);
    else map.set(key, [one]);
  };
  return {
    count: () => count,
    note(by, frame, receivedBy, endedAtMs) {
      count++;
      const decoded = decodeFrame(frame);
      const packet = decoded.ok ? packetOfFrame(decoded.value) : decoded;
      if (!packet.ok) return;
      const line = textOfOctets(formatMonitorLine(packet.value, { escapes: true }));
      const identity = packetIdentity(packet.value);
      const one: Happened = { endedAtMs, by, line, identity, packet: packet.value, receivedBy };
      add(byIdentity, identity, one);
      add(byLine, line, one);
      add(byInfo, textOfOctets(packet.value.info), one);
    },
    transmissionOf: (line, receiver, heardAtMs) =>
      byLine
        .get(line)
        ?.filter((one) => one.receivedBy.includes(receiver) && Math.abs(one.endedAtMs - heardAtMs) <= STEP_MS)
        .sort((a, b) => Math.abs(a.endedAtMs - heardAtMs) - Math.abs(b.endedAtMs - heardAtMs))[0],
    before: (transmission) =>
      (byIdentity.get(transmission.identity) ?? []).filter(
        (one) => one.endedAtMs <= transmission.endedAtMs && one.endedAtMs > transmission.endedAtMs - GOES_ROUND_MS,
      ),
    originOf(transmission) {
      let origin = transmission;
      // A copy of one that was sent anew may lie in the window without what it was a copy of.
      for (const one of [...(byIdentity.get(transmission.identity) ?? [])].reverse())
        if (one.endedAtMs <= origin.endedAtMs && one.endedAtMs > origin.endedAtMs - GOES_ROUND_MS) origin = one;
      return origin;
    },
    byRadio: (by, line) => byLine.get(line)?.filter((one) => one.by === by).length ?? 0,
    of: (identity) => byIdentity.get(identity) ?? [],
    withInfo: (info) => byInfo.get(info) ?? [],
  };
}
