import { createServer, type AddressInfo } from 'node:net';
import { Aedes } from 'aedes';
import { z } from 'zod';
import type { MeshPort } from './mesh';

const send = z.object({
  v: z.literal(1),
  id: z.string().regex(/^[0-9a-f]{8}$/),
  to: z.union([z.literal('all'), z.string().regex(/^[0-9a-f]{8}$/)]),
  hopLimit: z.number().int().min(1).max(7),
  channel: z.string().regex(/^[0-9a-f]{2}$/),
  body: z.unknown(),
  sealed: z.string().nullable(),
});

/** What other nodes tell of themselves. */
const announced = z.union([
  z.object({ short: z.string(), long: z.string(), router: z.boolean() }),
  z.object({ latitude: z.number(), longitude: z.number() }),
  z.object({ percent: z.number() }),
]);

interface Known {
  readonly node: string;
  readonly short: string;
  readonly long: string;
  readonly router: boolean;
  readonly latitude: number | null;
  readonly longitude: number | null;
  readonly percent: number | null;
  readonly at: string;
}

const blank = (node: string): Omit<Known, 'at'> => ({
  node,
  short: '',
  long: '',
  router: false,
  latitude: null,
  longitude: null,
  percent: null,
});

export interface MeshBroker {
  readonly port: number;
  stop(): Promise<void>;
}

/** A broker, and on it the node that a program is wired to (docs/mesh.md). */
export async function serveMeshNode(
  node: MeshPort,
  root: string,
  touch: () => void,
  wantedPort: number,
): Promise<MeshBroker> {
  const broker = await Aedes.createBroker();
  const base = `${root}/${node.node}`;
  const publish = (topic: string, message: unknown, retain = false) =>
    broker.publish(
      {
        cmd: 'publish',
        qos: 1,
        dup: false,
        retain,
        topic: `${base}/${topic}`,
        payload: Buffer.from(JSON.stringify(message)),
      },
      () => undefined,
    );
  const done = new Set<string>();
  broker.on('publish', (packet, client) => {
    if (!client || packet.topic !== `${base}/send`) return;
    let value: unknown;
    try {
      value = JSON.parse(packet.payload.toString());
    } catch {
      return;
    }
    const wanted = send.safeParse(value);
    if (!wanted.success) return;
    const { id, to, hopLimit, channel, body, sealed } = wanted.data;
    touch();
    if (!done.has(id)) {
      done.add(id);
      node.send({ id, from: node.node, to, hopLimit, channel, body: body ?? null, sealed });
    }
    publish('taken', { v: 1, id });
  });
  const known = new Map<string, Known>();
  node.onPacket(({ packet, snrDb, rssiDbm }) => {
    const { id, from, to, channel, body, sealed, hops, relay } = packet;
    const told = announced.safeParse(body);
    if (told.success && from !== node.node) {
      const before = known.get(from);
      known.set(from, { ...blank(from), ...before, ...told.data, at: new Date().toISOString() });
      const nodes = [...known.values()].filter(({ short }) => short !== '');
      publish('known', { v: 1, nodes }, true);
    }
    // The node stamps with the time of the machine, as a real one would: the simulated hour may run ahead.
    publish('heard', {
      v: 1,
      id,
      from,
      to,
      channel,
      body,
      sealed,
      hops,
      relay,
      snrDb,
      rssiDbm,
      at: new Date().toISOString(),
    });
  });

  const server = createServer(broker.handle);
  const port = await new Promise<number>((resolve, reject) => {
    server.once('error', reject);
    server.listen(wantedPort, '127.0.0.1', () => resolve((server.address() as AddressInfo).port));
  });
  return {
    port,
    stop: () =>
      new Promise((resolve) => {
        broker.close(() => server.close(() => resolve()));
      }),
  };
}
