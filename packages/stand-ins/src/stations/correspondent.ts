import {
  decodeInformation,
  encodeAnswer,
  encodeMessage,
  joinParts,
  messageNumber,
  readPart,
  retryDelayMs,
  SOONEST_OVER_DIGIPEATERS_S,
  writeAskedAgain,
  type Packet,
  type Part,
  type RetryPolicy,
} from '@tombolo/core';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { onPacket, packetFrom, sendPacket } from './packets';

export interface CorrespondentOptions {
  readonly path: readonly string[];
  /** Seconds between hearing a text and acknowledging it. */
  readonly acknowledgeAfterS: number;
  /** Share of acknowledgements that go out too weak to be heard, 0–1. */
  readonly lostAcknowledgements: number;
  /** Sends a reply this long after the first text of a station; null for a station that does not. */
  readonly replyAfterS: number | null;
  readonly reply: string;
  /** Puts texts in parts together and asks for what is missing; absent for a station that does not know the form. */
  readonly joins?: {
    /** The part of each text that it does not hear the first time, as when an engine runs beside the set. */
    readonly misses: number;
    /** Seconds without a further part before it asks. */
    readonly askAfterS: number;
  };
}

const RETRY: RetryPolicy = { firstS: SOONEST_OVER_DIGIPEATERS_S, factor: 2, capS: 300, tries: 4, jitter: 0.2 };
/** Attenuation of an acknowledgement that gets lost, dB. */
const LOST_DB = 80;

export interface Correspondent {
  /** Sends a text; a numbered one until it is acknowledged or the tries are used up. */
  write(to: string, text: string, numbered: boolean): void;
}

/** A station that takes texts, acknowledges them, and sometimes replies in the reply-ack form. */
export function runCorrespondent(world: World, radio: Radio, options: CorrespondentOptions): Correspondent {
  const { call } = radio.station;
  const chance = world.random(`correspondent/${call}`);
  const waiting = new Map<string, () => void>();
  const taken = new Set<string>();
  let counter = Math.floor(chance() * 1000);

  const send = (info: { ok: true; value: Uint8Array } | { ok: false }, weakerDb = 0) => {
    if (info.ok) sendPacket(radio, packetFrom(call, options.path, info.value), { weakerDb });
  };
  const write = (to: string, text: string, numbered: boolean, replyAck?: string | null) => {
    const number = numbered ? messageNumber(counter++) : null;
    const attempt = (n: number) => {
      send(encodeMessage({ addressee: to, text, number, replyAck }));
      if (number === null || n >= RETRY.tries) return;
      waiting.set(
        `${to}/${number}`,
        world.after(retryDelayMs(RETRY, n, chance(), options.path.length > 0), () => attempt(n + 1)),
      );
    };
    attempt(1);
  };

  const joining = options.joins && createJoining(world, options.joins, (to, text) => write(to, text, true));

  const lastHeard = new Map<string, number>();
  onPacket(radio, (packet: Packet) => {
    const information = decodeInformation(packet.info, packet.destination);
    if (!information.ok || !('addressee' in information.value) || information.value.addressee !== call) return;
    const data = information.value;
    const { source } = packet;
    if (data.kind === 'ack' || data.kind === 'rej') {
      waiting.get(`${source}/${data.number}`)?.();
      waiting.delete(`${source}/${data.number}`);
      return;
    }
    if (data.kind !== 'message' || joining?.(source, data.text)) return;
    const { number, numberField } = data;
    if (number === null || numberField === null) return;
    const key = `${source}/${number}/${data.text}`;
    // Copies by several digipeaters within the window are one packet: one acknowledgement.
    const before = lastHeard.get(key);
    if (before !== undefined && world.now() - before < 10_000) return;
    lastHeard.set(key, world.now());
    world.after(1000 * options.acknowledgeAfterS * (0.8 + 0.4 * chance()), () =>
      send(encodeAnswer('ack', source, numberField), chance() < options.lostAcknowledgements ? LOST_DB : 0),
    );
    if (taken.has(key)) return;
    taken.add(key);
    if (options.replyAfterS !== null && number.length <= 2)
      world.after(1000 * options.replyAfterS, () => write(source, options.reply, true, number));
  });
  return { write: (to, text, numbered) => write(to, text, numbered) };
}

/** Copies of one packet by several digipeaters come within that time. */
const COPIES_MS = 10_000;

/** Hears texts in parts; true for what it does not hear. */
function createJoining(
  world: World,
  { misses, askAfterS }: NonNullable<CorrespondentOptions['joins']>,
  write: (to: string, text: string) => void,
): (from: string, text: string) => boolean {
  const texts = new Map<string, { parts: Part[]; missedMs: number | null; stop: () => void }>();
  return (from, text) => {
    const part = readPart(text);
    if (!part) return false;
    const key = `${from}/${part.set}${part.of}`;
    const before = texts.get(key) ?? { parts: [], missedMs: null, stop: () => undefined };
    texts.set(key, before);
    if (part.n === misses && world.now() - (before.missedMs ??= world.now()) < COPIES_MS) return true;
    before.parts.push(part);
    before.stop();
    const { missing } = joinParts(before.parts);
    before.stop =
      missing.length === 0
        ? () => undefined
        : world.after(1000 * askAfterS, () => write(from, writeAskedAgain({ ...part, wanted: missing })));
    return false;
  };
}
