import {
  channelMark,
  decodeMeshContent,
  decodeMeshFrame,
  encodeMeshContent,
  encodeMeshFrame,
  EVERYBODY,
  openPayload,
  sealPayload,
  type MeshContent,
  type MeshFrame,
} from '@tombolo/core';
import { OPEN_CHANNEL, RELIEF_CHANNEL, type DistrictNode } from '@tombolo/scenario';
import type { World } from '../sim/world';
import type { MeshPort } from './node';

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

/** What a frame says to somebody on both channels of the district. */
function read(frame: MeshFrame): MeshContent | null {
  let body = frame.body;
  if (frame.sealed) {
    const opened = frame.mark === RELIEF_MARK ? openPayload(frame.body, RELIEF_KEY, frame) : null;
    if (!opened?.ok) return null;
    body = opened.value;
  }
  const content = decodeMeshContent(body);
  return content.ok ? content.value : null;
}

/** Somebody with a node: acknowledges what comes to it, sends texts until they are acknowledged. */
export function runMeshPerson(world: World, port: MeshPort, of: DistrictNode): MeshPerson {
  const chance = world.random(`mesh/${of.tag}`);
  /** By packet number: what stops the further tries of its text. */
  const waiting = new Map<string, () => void>();
  const received: MeshPerson['received'] = [];
  const seen = new Set<string>();
  let counter = Math.floor(chance() * 900);

  /** Sends and gives the packet's number. */
  const send = (addressee: string, content: MeshContent, sealed: boolean): string => {
    const number = Math.floor(chance() * 0xffffffff)
      .toString(16)
      .padStart(8, '0');
    const mark = sealed ? RELIEF_MARK : OPEN_MARK;
    const head = { sealed, mark, sender: port.node, addressee, number, hopsLeft: HOPS, hops: 0 };
    const plain = encodeMeshContent(content);
    const nonce = Uint8Array.from({ length: 12 }, () => Math.floor(chance() * 256));
    const frame = encodeMeshFrame({ ...head, body: sealed ? sealPayload(plain, RELIEF_KEY, nonce, head) : plain });
    if (frame.ok) port.send(frame.value);
    return number;
  };

  port.onFrame(({ frame: octets }) => {
    const frame = decodeMeshFrame(octets);
    if (!frame.ok || frame.value.sender === port.node || frame.value.addressee !== port.node) return;
    const { sender, number, sealed } = frame.value;
    const content = read(frame.value);
    if (content?.kind === 'acknowledgement') waiting.get(content.of)?.();
    if (content?.kind !== 'text') return;
    world.after(800, () => send(sender, { kind: 'acknowledgement', of: number }, sealed));
    const key = `${sender}/${content.n}/${content.text}`;
    if (seen.has(key)) return;
    seen.add(key);
    received.push({ from: sender, text: content.text });
  });

  return {
    received,
    write(to, text, sealed = false) {
      const addressee = to === 'all' ? EVERYBODY : to;
      const n = (counter++ % 1000).toString(36).padStart(2, '0');
      let done = false;
      const attempt = (k: number) => {
        if (done) return;
        const number = send(addressee, { kind: 'text', n, text }, sealed);
        if (addressee === EVERYBODY) return;
        waiting.set(number, () => (done = true));
        if (k < TRIES) world.after(RETRY_MS * (0.8 + 0.4 * chance()), () => attempt(k + 1));
      };
      // Whoever gets the text should know whom it is from.
      port.announce();
      world.after(5000, () => attempt(1));
    },
  };
}
