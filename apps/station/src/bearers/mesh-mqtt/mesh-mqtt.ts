import mqtt, { type MqttClient } from 'mqtt';
import type { BearerState } from '@tombolo/contract';
import type { BearerFactory, Taken } from '../bearer';
import { encodeMeshLeg } from './encode';
import { ingestKnown, ingestMesh, type MeshIngestContext } from './ingest';
import { parseMeshHeard, parseMeshKnown, parseMeshTaken } from './wire';

const TAKEN_WITHIN_MS = 10_000;
const RECONNECT_MS = 2000;
/** A packet stamped longer ago than this is a stale message of the broker, not something heard now. */
const STALE_MS = 15 * 60_000;

/** The node of a mesh, spoken to over MQTT as docs/mesh.md says. */
export const createMeshMqtt: BearerFactory<'mesh-mqtt'> = (config, context) => {
  const base = `${config.root}/${config.node}`;
  const waiting = new Map<string, (taken: Taken) => void>();
  let client: MqttClient | null = null;
  let storing: Promise<void> = Promise.resolve();
  const iso = () => new Date(context.now()).toISOString();
  let state: BearerState = { link: 'off', since: iso(), reason: null, nextTryAt: null };
  const change = (link: BearerState['link'], reason: string | null) => {
    if (state.link === link && state.reason === reason) return;
    state = { link, reason, nextTryAt: null, since: link === state.link ? state.since : iso() };
    context.stateChanged();
  };

  const ingestContext: MeshIngestContext = {
    bearerId: context.id,
    config,
    database: context.database,
    now: context.now,
  };
  const store = (work: () => Promise<void>) => {
    storing = storing
      .then(work)
      .then(context.wakeOutbox)
      .catch((error: Error) => context.log(`mesh: a packet could not be stored: ${error.message}`));
  };

  const receive = (topic: string, octets: Buffer, retained: boolean) => {
    if (topic === `${base}/taken`) {
      const taken = parseMeshTaken(octets);
      if (!taken.ok) return context.log(`mesh: a message that is not as described was ignored: ${taken.error.reason}`);
      waiting.get(taken.value.id)?.({ taken: true });
      waiting.delete(taken.value.id);
      return;
    }
    if (topic === `${base}/known`) {
      const known = parseMeshKnown(octets);
      if (!known.ok) return context.log(`mesh: what the node knows is not as described: ${known.error.reason}`);
      return store(() => ingestKnown(ingestContext, known.value));
    }
    const heard = parseMeshHeard(octets);
    if (!heard.ok) {
      const fault = { at: heard.error.at, reason: `mesh message: ${heard.error.reason}` };
      context.heard({
        bearerId: context.id,
        importId: null,
        port: null,
        form: 'line',
        raw: octets.subarray(0, 2048),
        heardAtMs: context.now(),
        fault,
      });
      return;
    }
    if (retained || Math.abs(Date.parse(heard.value.at) - context.now()) > STALE_MS) {
      context.log(`mesh: a stale message of the broker was ignored (${heard.value.from} ${heard.value.id})`);
      return;
    }
    const text = octets.toString('utf8');
    store(() => ingestMesh(ingestContext, heard.value, text));
  };

  return {
    start() {
      if (client) return;
      change('connecting', null);
      const opened = mqtt.connect({
        host: config.host,
        port: config.port,
        protocol: 'mqtt',
        protocolVersion: 4,
        reconnectPeriod: RECONNECT_MS,
        connectTimeout: 10_000,
        clean: true,
      });
      client = opened;
      opened.on('connect', () => {
        opened.subscribe([`${base}/heard`, `${base}/taken`, `${base}/known`], { qos: 1 }, (error) =>
          error ? change('down', `the broker does not let us listen: ${error.message}`) : change('up', null),
        );
      });
      opened.on('message', (topic, octets, packet) => receive(topic, octets, packet.retain));
      opened.on('close', () => {
        if (state.link !== 'off') change('down', state.reason ?? 'the broker is not connected');
      });
      opened.on('error', (error) =>
        change(
          'down',
          'code' in error && error.code === ('ECONNREFUSED' as unknown)
            ? 'nothing listens at that address and port'
            : error.message,
        ),
      );
    },
    async stop() {
      change('off', null);
      for (const answer of waiting.values()) answer({ taken: false, reason: 'the link was switched off' });
      waiting.clear();
      await client?.endAsync(true);
      client = null;
      await storing;
    },
    state: () => state,
    encode: (leg, attempt) => encodeMeshLeg(config, leg, attempt),
    transmit: (frame) =>
      new Promise<Taken>((resolve) => {
        if (!client || state.link !== 'up') return resolve({ taken: false, reason: state.reason ?? 'not connected' });
        const { id } = JSON.parse(Buffer.from(frame).toString('utf8')) as { id: string };
        const late = setTimeout(() => {
          waiting.delete(id);
          resolve({ taken: false, reason: 'the node did not confirm that it took it' });
        }, TAKEN_WITHIN_MS);
        waiting.set(id, (taken) => {
          clearTimeout(late);
          resolve(taken);
        });
        client.publish(`${base}/send`, Buffer.from(frame), { qos: 1 });
      }),
  };
};
