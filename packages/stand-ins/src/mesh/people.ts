import { channelMark, octetsOfText, openPayload, sealPayload, textOfOctets } from '@tombolo/core';
import type { DistrictNode } from '@tombolo/scenario';
import { OPEN_CHANNEL, RELIEF_CHANNEL } from '@tombolo/scenario';
import { z } from 'zod';
import type { World } from '../sim/world';
import type { MeshPort } from './mesh';

const body = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('text'), n: z.string(), text: z.string() }),
  z.object({ kind: z.literal('ack'), n: z.string() }),
]);

const ANNOUNCE_MS = 30 * 60_000;
const RETRY_MS = 25_000;
const TRIES = 5;
const HOPS = 4;
const RELIEF_KEY = new Uint8Array(Buffer.from(RELIEF_CHANNEL.key, 'base64'));
const OPEN_MARK = channelMark(OPEN_CHANNEL.name, null);
const RELIEF_MARK = channelMark(RELIEF_CHANNEL.name, RELIEF_KEY);

export interface MeshPerson {
  readonly received: { readonly from: string; readonly text: string }[];
  write(to: string, text: string, sealed?: boolean): void;
}

/** Somebody with a node: announces itself, acknowledges what comes to it, sends texts until they are acknowledged. */
export function runMeshPerson(world: World, port: MeshPort, of: DistrictNode): MeshPerson {
  const chance = world.random(`mesh/${of.short}`);
  const waiting = new Map<string, () => void>();
  const received: MeshPerson['received'] = [];
  const seen = new Set<string>();
  let counter = Math.floor(chance() * 900);
  const newId = () =>
    Math.floor(chance() * 0xffffffff)
      .toString(16)
      .padStart(8, '0');

  const send = (to: string, content: unknown, sealed: boolean) => {
    const id = newId();
    const common = { id, from: port.node, to, hopLimit: HOPS };
    if (!sealed) return port.send({ ...common, channel: OPEN_MARK, body: content, sealed: null });
    const nonce = Uint8Array.from({ length: 12 }, () => Math.floor(chance() * 256));
    const octets = sealPayload(octetsOfText(JSON.stringify(content)), RELIEF_KEY, nonce, common);
    port.send({ ...common, channel: RELIEF_MARK, body: null, sealed: Buffer.from(octets).toString('base64') });
  };
  const tellName = () => send('all', { kind: 'info', short: of.short, long: of.long, router: of.router }, false);
  const announce = () => {
    tellName();
    world.after(4000 + 4000 * chance(), () => send('all', { kind: 'position', ...of.position }, false));
    world.after(9000 + 4000 * chance(), () => send('all', { kind: 'battery', percent: of.batteryPercent }, false));
    world.after(ANNOUNCE_MS * (0.9 + 0.2 * chance()), announce);
  };
  world.after(20_000 * chance(), announce);

  port.onPacket(({ packet }) => {
    if (packet.from === port.node) return;
    let content: unknown = packet.body;
    if (packet.sealed !== null && packet.channel === RELIEF_MARK) {
      const opened = openPayload(new Uint8Array(Buffer.from(packet.sealed, 'base64')), RELIEF_KEY, packet);
      content = opened.ok ? JSON.parse(textOfOctets(opened.value)) : null;
    }
    const parsed = body.safeParse(content);
    if (!parsed.success || packet.to !== port.node) return;
    if (parsed.data.kind === 'ack') {
      const key = `${packet.from}/${parsed.data.n}`;
      waiting.get(key)?.();
      waiting.delete(key);
      return;
    }
    const { n, text } = parsed.data;
    const sealed = packet.sealed !== null;
    world.after(800, () => send(packet.from, { kind: 'ack', n }, sealed));
    const key = `${packet.from}/${n}/${text}`;
    if (seen.has(key)) return;
    seen.add(key);
    received.push({ from: packet.from, text });
  });

  return {
    received,
    write(to, text, sealed = false) {
      const n = (counter++ % 1000).toString(36).padStart(2, '0');
      const attempt = (k: number) => {
        send(to, { kind: 'text', n, text }, sealed);
        if (to === 'all' || k >= TRIES) return;
        waiting.set(
          `${to}/${n}`,
          world.after(RETRY_MS * (0.8 + 0.4 * chance()), () => attempt(k + 1)),
        );
      };
      // Whoever gets the text should know whom it is from.
      tellName();
      world.after(3000, () => attempt(1));
    },
  };
}
