import {
  decodeInformation,
  encodeAnswer,
  encodeMessage,
  formatMonitorLine,
  joinOctets,
  messageNumber,
  octetsOfText,
  SOONEST_OVER_DIGIPEATERS_S,
  type Packet,
} from '@tombolo/core';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';
import { createDistrictDesk } from './district-desk';
import { createGroupServer, type WriteTo } from './group-server';
import { GENERIC_DESTINATION, onPacket, packetFrom, sendPacket } from './packets';
import { createPhone, createPost } from './phone-and-post';

const PATH = ['WIDE1-1', 'WIDE2-1'];
const TRIES = 4;
/** Repeats of one command within this time are one command. */
const SAME_MS = 600_000;

/** Services behind a gateway: they answer under their own address, passed on by the gateway as third-party packets. */
export function runServices(world: World, radio: Radio): void {
  const gateway = radio.station.call;
  const seen = new Map<string, number>();
  const waiting = new Map<string, () => void>();
  let counter = Math.floor(world.random('services')() * 1000);

  const passOn = (service: string, info: Uint8Array) => {
    const inner = formatMonitorLine(
      {
        source: service,
        destination: GENERIC_DESTINATION,
        path: [
          { call: 'TCPIP', used: false },
          { call: gateway, used: true },
        ],
        info,
      },
      { escapes: false },
    );
    sendPacket(radio, packetFrom(gateway, PATH, joinOctets([octetsOfText('}'), inner])));
  };
  const write = (service: string, to: string, text: string) => {
    const number = messageNumber(counter++);
    const attempt = (n: number) => {
      const info = encodeMessage({ addressee: to, text, number });
      if (info.ok) passOn(service, info.value);
      if (n < TRIES)
        waiting.set(
          `${to}/${service}/${number}`,
          world.after(SOONEST_OVER_DIGIPEATERS_S * 1000, () => attempt(n + 1)),
        );
    };
    attempt(1);
  };

  const by =
    (service: string): WriteTo =>
    (to, text) =>
      write(service, to, text);
  const desk = createDistrictDesk(world, gateway, by('ASKDSK'));
  const services: Record<string, (from: string, text: string) => void> = {
    TELTXT: createPhone(world, by('TELTXT')),
    POSTBX: createPost(by('POSTBX')),
    ROLLCL: createGroupServer(world, by('ROLLCL')),
    ASKDSK: desk.serve,
  };

  onPacket(radio, (packet: Packet) => {
    desk.hear(packet);
    const information = decodeInformation(packet.info, packet.destination);
    if (!information.ok || !('addressee' in information.value)) return;
    const data = information.value;
    const serve = Object.hasOwn(services, data.addressee) ? services[data.addressee] : undefined;
    if (!serve) return;
    const { source } = packet;
    if (data.kind === 'ack' || data.kind === 'rej') {
      const key = `${source}/${data.addressee}/${data.number}`;
      waiting.get(key)?.();
      waiting.delete(key);
      return;
    }
    if (data.kind !== 'message') return;
    const key = `${source}/${data.addressee}/${data.number}/${data.text}`;
    const before = seen.get(key);
    if (before !== undefined && world.now() - before < 10_000) return;
    seen.set(key, world.now());
    if (data.numberField !== null) {
      const ack = encodeAnswer('ack', source, data.numberField);
      if (ack.ok) world.after(1500, () => passOn(data.addressee, ack.value));
    }
    if (before === undefined || world.now() - before > SAME_MS) world.after(8000, () => serve(source, data.text));
  });
}
