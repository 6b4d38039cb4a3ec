import { createServer, type AddressInfo } from 'node:net';
import { Aedes } from 'aedes';
import mqtt, { type MqttClient } from 'mqtt';

/** A message that the station gave to its node. */
export interface GivenToNode {
  id: string;
  to: string;
  body: { kind: string; n: string; text?: string } | null;
  sealed: string | null;
}

export type MeshNodeUnderTest = Awaited<ReturnType<typeof startMeshNode>>;

/** A node and its broker under the test's control, and somebody (`from`) who is heard on a channel. */
export async function startMeshNode(own: string, from: string, channel: string) {
  const broker = await Aedes.createBroker();
  const server = createServer(broker.handle);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const client: MqttClient = await mqtt.connectAsync({ host: '127.0.0.1', port, protocolVersion: 4 });
  const sent: GivenToNode[] = [];
  const onSent: ((message: GivenToNode) => void)[] = [];
  await client.subscribeAsync(`t/${own}/send`, { qos: 1 });
  let answering = true;
  client.on('message', (_topic, octets) => {
    const message = JSON.parse(octets.toString()) as GivenToNode;
    sent.push(message);
    for (const call of onSent) call(message);
    if (answering) client.publish(`t/${own}/taken`, JSON.stringify({ v: 1, id: message.id }), { qos: 1 });
  });
  let n = 0;
  return {
    port,
    sent,
    onSent: (call: (message: GivenToNode) => void) => onSent.push(call),
    silence: () => (answering = false),
    speak: () => (answering = true),
    raw: (text: string, retain = false) => client.publishAsync(`t/${own}/heard`, text, { qos: 1, retain }),
    hear: (more: object) =>
      client.publishAsync(
        `t/${own}/heard`,
        JSON.stringify({
          v: 1,
          id: (0x10 + n++).toString(16).padStart(8, '0'),
          from,
          to: own,
          channel,
          body: null,
          sealed: null,
          hops: 1,
          relay: '5a100003',
          snrDb: 4,
          rssiDbm: -100,
          at: new Date().toISOString(),
          ...more,
        }),
        { qos: 1 },
      ),
    stop: async () => {
      await client.endAsync(true);
      await new Promise<void>((resolve) => broker.close(() => server.close(() => resolve())));
    },
  };
}
