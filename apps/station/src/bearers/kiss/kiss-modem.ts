import { isDeepStrictEqual } from 'node:util';
import type { ModemSettings } from '@tombolo/contract';
import {
  airTimeMs,
  createKissDecoder,
  decodeFrame,
  DEFAULT_TIMING,
  encodeKiss,
  encodeKissTiming,
  encodeKissToConfirm,
  hexOfOctets,
  KISS_COMMANDS,
  type ChannelTiming,
} from '@tombolo/core';
import { createLinkPort, machineClock } from '@tombolo/link-stream';
import { createTransmitter } from '../../transmissions/transmitter';
import type { Bearer, Tuned } from '../../transmissions/bearer';
import type { Taken } from '../../transmissions/taken';
import type { BearerContext } from '../bearer';
import { encodePacketLeg } from '../packet-leg';
import { createEquipmentLink, type OpenLine } from '../equipment-link';
import { createConfirmations } from './confirmations';

/** How a line of one kind to a modem is opened. */
export interface ModemLine<Config> {
  open(config: Config): OpenLine;
  /** Where the modem is: air time is accounted by it. */
  where(config: Config): string;
  /** The device of this machine that it holds open; absent for the network. */
  device?(config: Config): string;
}

/** A modem that speaks KISS, over whatever line: packets, and connections. */
export function createKissModem<Config extends ModemSettings & { readonly kind: string }>(
  line: ModemLine<Config>,
  configured: Config,
  context: BearerContext,
): Bearer {
  let config = configured;
  const tuned = () => tunedTo(config);
  let decoder = createKissDecoder();
  const timing = timingOf(configured);
  const channel = () => `${line.where(config)}/${config.modemPort}@${formatChannelMHz(tuned())}`;
  const confirmations = createConfirmations();
  const write = async (frame: Uint8Array): Promise<Taken> => {
    if (!config.confirms) return link.write(encodeKiss(frame, config.modemPort));
    const number = confirmations.number();
    const told = confirmations.of(number, airTimeMs(frame, timing));
    const given = await link.write(encodeKissToConfirm(frame, number, config.modemPort));
    if (given.verdict === 'given') return told;
    confirmations.lost();
    return given;
  };
  const transmitter = createTransmitter({
    now: context.now,
    timing: () => timing,
    closed: () =>
      link.state().link === 'up' ? context.closed() : (link.state().reason ?? 'the modem is not connected'),
    held: context.held,
    write,
  });
  const port = createLinkPort({
    call: context.ownCall,
    clock: machineClock,
    parameters: { overheadMs: timing.txDelayMs + 50 },
    send(frame, { peer, refusal }) {
      // Nothing goes out without leave; asked again when its turn comes.
      if (context.closed() !== null && !context.held()) return;
      if (!refusal) return transmitter.later(frame, `connection with ${peer}`);
      if (context.held()) return;
      const spending = { channel: channel(), ms: airTimeMs(frame, timing), askedBy: peer };
      void context.refusals.allow(spending).then((allowed) => {
        if (allowed) transmitter.later(frame, `no connection for ${peer}`);
      });
    },
  });
  /** False when so much waits that the modem should not be read for now. */
  const receive = (events: ReturnType<typeof decoder.push>): boolean => {
    let room = true;
    const heard: typeof context.heard = (one) => {
      room = context.heard(one) && room;
      return room;
    };
    for (const event of events) {
      const common = {
        bearerId: context.id,
        importId: null,
        form: 'ax25' as const,
        heardAtMs: context.now(),
        frequencyHz: tuned().frequencyHz,
      };
      if (event.kind === 'garbage')
        heard({ ...common, port: null, raw: event.octets, fault: { at: 0, reason: event.reason } });
      else if (event.command === KISS_COMMANDS.data) {
        // Frames of our own connections as well: what was heard is on record, whatever it was for.
        const frame = decodeFrame(event.data);
        heard({ ...common, port: event.port, raw: event.data, frame });
        port.receive(event.data, frame);
      } else if (event.command === KISS_COMMANDS.confirm && config.confirms && event.data.length === 2) {
        confirmations.confirmed((event.data[0]! << 8) | event.data[1]!);
      } else {
        const reason = `a KISS command ${event.command} from the modem: ${hexOfOctets(event.data).slice(0, 40)}`;
        heard({ ...common, port: event.port, raw: event.data, fault: { at: 0, reason } });
      }
    }
    return room;
  };
  /** What comes before any frame is told within a second: a modem that waits for commands says a line and waits. */
  let loose: ReturnType<typeof setTimeout> | undefined;
  const link = createEquipmentLink(() => line.open(config), context, {
    onUp: (write) => write(encodeKissTiming(config, config.modemPort)),
    onData: (chunk) => {
      loose ??= setTimeout(() => {
        loose = undefined;
        receive(decoder.loose());
      }, LOOSE_MS);
      return receive(decoder.push(chunk));
    },
    onDown: () => {
      clearTimeout(loose);
      loose = undefined;
      receive(decoder.end());
      decoder = createKissDecoder();
      confirmations.lost();
    },
  });
  return {
    start: link.start,
    stop: async () => {
      port.stop();
      transmitter.stop();
      await link.stop();
      confirmations.lost();
    },
    state: link.state,
    tuned,
    device: () => line.device?.(config) ?? null,
    adopt(changed) {
      if (changed.kind !== config.kind) return false;
      // Of the same kind it has the same shape.
      const next = changed as unknown as Config;
      if (!isDeepStrictEqual(atOnce(next), atOnce(config))) return false;
      if (next.frequencyMHz !== config.frequencyMHz) transmitter.retuned();
      config = next;
      return true;
    },
    transmit: ({ frame, line: words }) => transmitter.now(frame, words),
    encode: encodePacketLeg,
    air: { channel, ms: (frame) => airTimeMs(frame, timing) },
    freeAtMs: transmitter.freeAtMs,
    giveWay: transmitter.giveWay,
    atEquipment: transmitter.atEquipment,
    unrecordedMs: transmitter.connectionsMs,
    waiting: transmitter.waiting,
    leftOut: context.refusals.leftOut,
    wake: transmitter.wake,
    connect(peer, path) {
      if (link.state().link !== 'up') throw new Error(link.state().reason ?? 'the modem is not connected');
      const closed = context.closed();
      if (closed !== null) throw new Error(closed);
      return port.connect(peer, path);
    },
  };
}

const HZ = 1_000_000;
const LOOSE_MS = 1000;

/** A configuration without what may change while the modem stays connected. */
const atOnce = (config: object) => ({ ...config, frequencyMHz: null, path: [] });

const timingOf = ({ txDelayMs }: ModemSettings): ChannelTiming => ({ ...DEFAULT_TIMING, txDelayMs });

export const tunedTo = ({ modemPort, frequencyMHz }: ModemSettings): Tuned => ({
  port: modemPort,
  frequencyHz: frequencyMHz === null ? null : Math.round(frequencyMHz * HZ),
});

const formatChannelMHz = ({ frequencyHz }: Tuned): string =>
  frequencyHz === null ? 'unknown' : (frequencyHz / HZ).toFixed(4);

/** How long a frame holds the channel, ms. */
export const frameMsOf = (config: ModemSettings) => (frame: Uint8Array) => airTimeMs(frame, timingOf(config));
