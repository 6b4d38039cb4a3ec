import { createServer, type AddressInfo } from 'node:net';
import {
  channelMark,
  decodeMeshContent,
  decodeMeshFrame,
  encodeMeshContent,
  encodeMeshFrame,
  sealPayload,
  type MeshContent,
} from '@tombolo/core';
import type { BearerConfig } from '@tombolo/contract';
import { Aedes } from 'aedes';
import mqtt, { type MqttClient } from 'mqtt';

/** A frame that the station gave to its node. */
export interface GivenToNode {
  readonly number: string;
  readonly addressee: string;
  readonly sealed: boolean;
  /** What it says; null when it is sealed. */
  readonly content: MeshContent | null;
  readonly octets: Uint8Array;
}

/** How the bearer to such a node is set up. */
export const meshConfig = (
  port: number,
  node: string,
  more: Partial<Extract<BearerConfig, { kind: 'mesh-mqtt' }>> = {},
): Extract<BearerConfig, { kind: 'mesh-mqtt' }> => ({
  kind: 'mesh-mqtt',
  host: '127.0.0.1',
  port,
  root: 't',
  node,
  tag: 'SKSCHL',
  name: 'School',
  carrier: false,
  hopLimit: 4,
  announceMin: 20,
  radio: { frequencyHz: 868_300_000, spreadingFactor: 9, bandwidthHz: 125_000, codingRate: 1 },
  channels: [{ name: 'Sound', key: null, kept: false }],
  ...more,
});

interface Heard {
  readonly content?: MeshContent;
  /** Octets of the body as they are, instead of a content. */
  readonly body?: Uint8Array;
  readonly sender?: string;
  readonly addressee?: string;
  readonly number?: string;
  readonly channel?: { readonly name: string; readonly key: Uint8Array | null };
  readonly hops?: number;
  readonly at?: string;
}

export type MeshNodeUnderTest = Awaited<ReturnType<typeof startMeshNode>>;

/** A node and its broker under the test's control, and somebody (`from`) who is heard on an open channel. */
export async function startMeshNode(own: string, from: string, channelName: string) {
  const broker = await Aedes.createBroker();
  const server = createServer(broker.handle);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const client: MqttClient = await mqtt.connectAsync({ host: '127.0.0.1', port, protocolVersion: 4 });
  const sent: GivenToNode[] = [];
  const setups: { radio: unknown; silent: boolean }[] = [];
  const onSent: ((message: GivenToNode) => void)[] = [];
  await client.subscribeAsync([`t/${own}/send`, `t/${own}/setup`], { qos: 1 });
  let answering = true;
  const tell = (topic: string, message: object, retain = false) =>
    client.publishAsync(`t/${own}/${topic}`, JSON.stringify({ v: 2, ...message }), { qos: 1, retain });
  await tell('account', { minutes: [] }, true);
  client.on('message', (topic, octets) => {
    const message = JSON.parse(octets.toString()) as {
      frame: string;
      radio: object;
      tag: string;
      carrier: boolean;
      silent: boolean;
    };
    if (topic.endsWith('/setup')) {
      setups.push(message);
      void tell('state', { radio: message.radio, tag: message.tag, carrier: message.carrier }, true);
      return;
    }
    const frame = new Uint8Array(Buffer.from(message.frame, 'base64'));
    const decoded = decodeMeshFrame(frame);
    if (!decoded.ok) throw new Error(`the station gave no frame: ${decoded.error.reason}`);
    const { number, addressee, sealed, body } = decoded.value;
    const content = sealed ? null : decodeMeshContent(body);
    const given = { number, addressee, sealed, content: content?.ok ? content.value : null, octets: frame };
    sent.push(given);
    for (const call of onSent) call(given);
    if (answering) void tell('taken', { number });
  });
  let n = 0;
  const nextNumber = () => (0x10 + n++).toString(16).padStart(8, '0');
  return {
    port,
    sent,
    setups,
    tell,
    onSent: (call: (message: GivenToNode) => void) => onSent.push(call),
    silence: () => (answering = false),
    speak: () => (answering = true),
    raw: (text: string, retain = false) => client.publishAsync(`t/${own}/heard`, text, { qos: 1, retain }),
    /** A frame of somebody is heard; gives its packet number. */
    async hear(heard: Heard): Promise<string> {
      const { name, key } = heard.channel ?? { name: channelName, key: null };
      const hops = heard.hops ?? 1;
      const head = {
        sealed: key !== null,
        mark: channelMark(name, key),
        sender: heard.sender ?? from,
        addressee: heard.addressee ?? own,
        number: heard.number ?? nextNumber(),
        hopsLeft: 4 - hops,
        hops,
      };
      const plain = heard.body ?? encodeMeshContent(heard.content!);
      const nonce = new Uint8Array(12).fill(n);
      const frame = encodeMeshFrame({ ...head, body: key ? sealPayload(plain, key, nonce, head) : plain });
      if (!frame.ok) throw new Error(frame.error.reason);
      await this.frame(frame.value, heard.at);
      return head.number;
    },
    /** These octets are heard. */
    frame: (octets: Uint8Array, at = new Date().toISOString()) =>
      tell('heard', { frame: Buffer.from(octets).toString('base64'), snrDb: 4, rssiDbm: -100, at }),
    stop: async () => {
      await client.endAsync(true);
      await new Promise<void>((resolve) => broker.close(() => server.close(() => resolve())));
    },
  };
}
