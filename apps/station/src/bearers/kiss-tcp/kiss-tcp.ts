import { isDeepStrictEqual } from 'node:util';
import type { BearerConfig } from '@tombolo/contract';
import {
  airTimeMs,
  createKissDecoder,
  decodeFrame,
  DEFAULT_TIMING,
  encodeKiss,
  encodeKissParameter,
  encodeKissToConfirm,
  hexOfOctets,
  KISS_COMMANDS,
  type ChannelTiming,
} from '@tombolo/core';
import { createLinkPort, machineClock } from '@tombolo/link-stream';
import { createTransmitter } from '../../transmissions/transmitter';
import type { Tuned } from '../../transmissions/bearer';
import type { Taken } from '../../transmissions/taken';
import type { BearerAdapter, BearerFactory } from '../bearer';
import { encodePacketLeg } from '../packet-leg';
import { createTcpLink } from '../tcp-link';
import { createConfirmations } from './confirmations';

/** A modem that offers KISS over TCP: packets, and connections. */
const createKissTcp: BearerFactory<'kiss-tcp'> = (configured, context) => {
  let config = configured;
  const tuned = () => tunedTo(config);
  let decoder = createKissDecoder();
  const timing = timingOf(configured);
  const channel = () => `${config.host}:${config.port}/${config.modemPort}@${formatChannelMHz(tuned())}`;
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
  /** What is no frame is told when nothing more follows it: a modem that waits for commands says a line and waits. */
  let quiet: ReturnType<typeof setTimeout> | undefined;
  const link = createTcpLink(config, context, {
    onUp: (write) => write(encodeKissParameter('txDelay', Math.round(timing.txDelayMs / 10), config.modemPort)),
    onData: (chunk) => {
      clearTimeout(quiet);
      quiet = setTimeout(() => receive(decoder.loose()), QUIET_MS);
      return receive(decoder.push(chunk));
    },
    onDown: () => {
      clearTimeout(quiet);
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
    adopt(next) {
      if (next.kind !== config.kind || !isDeepStrictEqual(atOnce(next), atOnce(config))) return false;
      if (next.frequencyMHz !== config.frequencyMHz) transmitter.retuned();
      config = next;
      return true;
    },
    transmit: ({ frame, line }) => transmitter.now(frame, line),
    encode: encodePacketLeg,
    air: { channel, ms: (frame) => airTimeMs(frame, timing) },
    freeAtMs: transmitter.freeAtMs,
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
};

const HZ = 1_000_000;
const QUIET_MS = 1000;

/** A configuration without what may change while the modem stays connected. */
const atOnce = (config: BearerConfig<'kiss-tcp'>) => ({ ...config, frequencyMHz: null, path: [] });

const timingOf = ({ txDelayMs }: BearerConfig<'kiss-tcp'>): ChannelTiming => ({ ...DEFAULT_TIMING, txDelayMs });

const tunedTo = ({ modemPort, frequencyMHz }: BearerConfig<'kiss-tcp'>): Tuned => ({
  port: modemPort,
  frequencyHz: frequencyMHz === null ? null : Math.round(frequencyMHz * HZ),
});

const formatChannelMHz = ({ frequencyHz }: Tuned): string =>
  frequencyHz === null ? 'unknown' : (frequencyHz / HZ).toFixed(4);

export const kissTcp: BearerAdapter<'kiss-tcp'> = {
  kind: 'kiss-tcp',
  create: createKissTcp,
  tuned: tunedTo,
  frameMs: (config) => (frame) => airTimeMs(frame, timingOf(config)),
};
