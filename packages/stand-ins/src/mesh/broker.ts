import { createServer, type AddressInfo } from 'node:net';
import { decodeMeshContent, decodeMeshFrame } from '@tombolo/core';
import { Aedes } from 'aedes';
import { z } from 'zod';
import type { MeshPort } from './node';

const v = z.literal(2);
const MINUTE_MS = 60_000;
/** Of its account it tells an hour and a little more. */
const MINUTES_KEPT = 61;
const send = z.object({ v, frame: z.base64().max(340) });
const setup = z.object({
  v,
  silent: z.boolean(),
  tag: z.string().regex(/^[A-Z0-9]{1,6}$/),
  name: z.string().max(40),
  carrier: z.boolean(),
  announceMin: z.number().min(1).max(1440),
  hopLimit: z.number().int().min(1).max(15),
  mark: z
    .string()
    .regex(/^[0-9a-f]{4}$/)
    .nullable(),
  radio: z
    .object({
      frequencyHz: z.number(),
      spreadingFactor: z.number().int().min(7).max(12),
      bandwidthHz: z.number().positive(),
      codingRate: z.number().int().min(1).max(4),
    })
    .nullable(),
});

/** What the node knows of another one. */
interface Known {
  readonly node: string;
  readonly tag: string;
  readonly name: string;
  readonly carrier: boolean;
  readonly latitude: number | null;
  readonly longitude: number | null;
  readonly percent: number | null;
  readonly at: string;
}

export interface MeshBroker {
  readonly port: number;
  stop(): Promise<void>;
}

/** A broker, and on it the node that a program is wired to (docs/mesh.md). */
export async function serveMeshNode(
  node: MeshPort,
  root: string,
  options: {
    readonly touch: () => void;
    /** Simulated time over that of the machine, which the node stamps with. */
    readonly speed: () => number;
    readonly port: number;
    /** The clock of the machine. */
    readonly now?: () => number;
  },
): Promise<MeshBroker> {
  const broker = await Aedes.createBroker();
  const base = `${root}/${node.node}`;
  const publish = (topic: string, message: object, retain = false) =>
    broker.publish(
      {
        cmd: 'publish',
        qos: 1,
        dup: false,
        retain,
        topic: `${base}/${topic}`,
        payload: Buffer.from(JSON.stringify({ v: 2, ...message })),
      },
      () => undefined,
    );
  const clock = options.now ?? Date.now;
  const now = () => new Date(clock()).toISOString();
  const done = new Set<string>();
  const take = (frame: Uint8Array) => {
    const decoded = decodeMeshFrame(frame);
    if (!decoded.ok || decoded.value.sender !== node.node) return;
    const { number } = decoded.value;
    options.touch();
    // The same number again is taken again and transmitted once.
    if (!done.has(number) && !node.send(frame)) return;
    done.add(number);
    publish('taken', { number });
  };
  const tellState = () => {
    const { radio, tag, carrier } = node.setup();
    publish('state', { radio, tag, carrier }, true);
  };
  broker.on('publish', (packet, client) => {
    if (!client) return;
    let value: unknown;
    try {
      value = JSON.parse(packet.payload.toString());
    } catch {
      return;
    }
    if (packet.topic === `${base}/send`) {
      const wanted = send.safeParse(value);
      if (wanted.success) take(new Uint8Array(Buffer.from(wanted.data.frame, 'base64')));
    } else if (packet.topic === `${base}/setup`) {
      const wanted = setup.safeParse(value);
      if (!wanted.success) return;
      node.configure(wanted.data);
      tellState();
    }
  });
  const known = new Map<string, Known>();
  node.onFrame(({ frame: octets, snrDb, rssiDbm }) => {
    const frame = decodeMeshFrame(octets);
    if (!frame.ok) return;
    const { sender, sealed, body } = frame.value;
    const content = sealed ? null : decodeMeshContent(body);
    if (content?.ok && content.value.kind === 'announcement' && sender !== node.node) {
      const { tag, name, carrier, position, batteryPercent } = content.value;
      known.set(sender, {
        node: sender,
        tag,
        name,
        carrier,
        latitude: position?.latitude ?? null,
        longitude: position?.longitude ?? null,
        percent: batteryPercent,
        at: now(),
      });
      publish('known', { nodes: [...known.values()] }, true);
    }
    // The node stamps with the time of the machine, as a real one would: the simulated hour may run ahead.
    publish('heard', { frame: Buffer.from(octets).toString('base64'), snrDb, rssiDbm, at: now() });
  });
  /** What it was on the air by itself, by minute. */
  const minutes = new Map<number, number>();
  const tellAccount = () => {
    const told = [...minutes].map(([at, spent]) => ({
      at: new Date(at * MINUTE_MS).toISOString(),
      ms: Math.ceil(spent),
    }));
    publish('account', { minutes: told }, true);
  };
  node.onTransmitted(({ cause, ms }) => {
    if (cause === 'given') return;
    const minute = Math.floor(clock() / MINUTE_MS);
    minutes.set(minute, (minutes.get(minute) ?? 0) + ms / options.speed());
    for (const old of minutes.keys()) if (old < minute - MINUTES_KEPT) minutes.delete(old);
    tellAccount();
  });
  tellState();
  tellAccount();

  const server = createServer(broker.handle);
  const port = await new Promise<number>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
  });
  return {
    port,
    stop: () =>
      new Promise((resolve) => {
        broker.close(() => server.close(() => resolve()));
      }),
  };
}
