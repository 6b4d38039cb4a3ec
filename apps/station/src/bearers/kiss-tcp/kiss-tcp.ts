import {
  createKissDecoder,
  decodeFrame,
  encodeKiss,
  encodeKissParameter,
  fail,
  formatMonitorLine,
  frameToSend,
  hexOfOctets,
  KISS_COMMANDS,
  ok,
  packetOfFrame,
  textOfOctets,
} from '@tombolo/core';
import { createLinkPort, machineClock } from '@tombolo/link-stream';
import { identityDigest } from '../../ingest/understand';
import type { Bearer, BearerFactory } from '../bearer';
import { createTcpLink } from '../tcp-link';

/** A modem that offers KISS over TCP: packets, and connections. */
export const createKissTcp: BearerFactory<'kiss-tcp'> = (config, context) => {
  let decoder = createKissDecoder();
  const port = createLinkPort({
    call: context.ownCall,
    clock: machineClock,
    parameters: { overheadMs: context.txDelayMs() + 50 },
    send: (frame) => void link.write(encodeKiss(frame, config.modemPort)),
  });
  const receive = (events: ReturnType<typeof decoder.push>) => {
    for (const event of events) {
      const common = { bearerId: context.id, importId: null, form: 'ax25' as const, heardAtMs: context.now() };
      if (event.kind === 'garbage')
        context.heard({ ...common, port: null, raw: event.octets, fault: { at: 0, reason: event.reason } });
      else if (event.command === KISS_COMMANDS.data) {
        if (!port.receive(event.data)) context.heard({ ...common, port: event.port, raw: event.data });
      } else {
        const reason = `a KISS command ${event.command} from the modem: ${hexOfOctets(event.data).slice(0, 40)}`;
        context.heard({ ...common, port: event.port, raw: event.data, fault: { at: 0, reason } });
      }
    }
  };
  const link = createTcpLink(config, context, {
    onUp: (write) => write(encodeKissParameter('txDelay', Math.round(context.txDelayMs() / 10), config.modemPort)),
    onData: (chunk) => receive(decoder.push(chunk)),
    onDown: () => {
      receive(decoder.end());
      decoder = createKissDecoder();
    },
  });
  return {
    start: link.start,
    stop: async () => {
      port.stop();
      await link.stop();
    },
    state: link.state,
    transmit: (frame) => link.write(encodeKiss(frame, config.modemPort)),
    encode: encodePacketLeg,
    connect(peer, path) {
      if (link.state().link !== 'up') throw new Error(link.state().reason ?? 'the modem is not connected');
      return port.connect(peer, path);
    },
  };
};

/** A leg as a UI frame; the same at each try. */
const encodePacketLeg: NonNullable<Bearer['encode']> = (leg) => {
  const frame = frameToSend(leg.fromCall, leg.path, leg.info);
  if (!frame.ok) return frame;
  const decoded = decodeFrame(frame.value);
  const packet = decoded.ok ? packetOfFrame(decoded.value) : decoded;
  if (!packet.ok) return fail(packet.error.at, `own frame cannot be read back: ${packet.error.reason}`);
  return ok({
    frame: frame.value,
    line: textOfOctets(formatMonitorLine(packet.value, { escapes: true })),
    identity: identityDigest(packet.value),
  });
};
