import { createKissDecoder, encodeKiss, encodeKissParameter, hexOfOctets, KISS_COMMANDS } from '@tombolo/core';
import type { BearerFactory } from '../bearer';
import { createTcpLink } from '../tcp-link';

/** A modem that offers KISS over TCP. */
export const createKissTcp: BearerFactory<'kiss-tcp'> = (config, context) => {
  let decoder = createKissDecoder();
  const receive = (events: ReturnType<typeof decoder.push>) => {
    for (const event of events) {
      const common = { bearerId: context.id, importId: null, form: 'ax25' as const, heardAtMs: context.now() };
      if (event.kind === 'garbage')
        context.heard({ ...common, port: null, raw: event.octets, fault: { at: 0, reason: event.reason } });
      else if (event.command === KISS_COMMANDS.data) context.heard({ ...common, port: event.port, raw: event.data });
      else {
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
    stop: link.stop,
    state: link.state,
    transmit: (frame) => link.write(encodeKiss(frame, config.modemPort)),
  };
};
