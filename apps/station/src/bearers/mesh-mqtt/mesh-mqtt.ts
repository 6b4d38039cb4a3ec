import mqtt, { type MqttClient } from 'mqtt';
import type { BearerState } from '@tombolo/contract';
import { loraAirTimeMs, MESH_OVERHEAD_OCTETS, MESH_SETTING } from '@tombolo/core';
import { failpoint } from '../../store/failpoints';
import type { BearerFactory, Taken } from '../bearer';
import { encodeMeshLeg } from './encode';
import { ingestKnown, type MeshKnownContext } from './ingest';
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

  const knownContext: MeshKnownContext = {
    bearerId: context.id,
    config,
    database: context.database,
    now: context.now,
  };
  /** What the node knows of others; it is told again, so nothing is lost where it cannot be stored. */
  const storeKnown = (work: () => Promise<void>) => {
    storing = storing
      .then(work)
      .catch((error: Error) => context.log(`mesh: what the node knows could not be stored: ${error.message}`));
  };

  const receive = (topic: string, octets: Buffer, retained: boolean) => {
    if (topic === `${base}/taken`) {
      const taken = parseMeshTaken(octets);
      if (!taken.ok) return context.log(`mesh: a message that is not as described was ignored: ${taken.error.reason}`);
      waiting.get(taken.value.id)?.({ verdict: 'confirmed', words: 'the node took it' });
      waiting.delete(taken.value.id);
      return;
    }
    if (topic === `${base}/known`) {
      const known = parseMeshKnown(octets);
      if (!known.ok) return context.log(`mesh: what the node knows is not as described: ${known.error.reason}`);
      return storeKnown(() => ingestKnown(knownContext, known.value));
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
    // By the same door as everything that is heard, so that it waits while the database is away.
    context.heard({
      bearerId: context.id,
      importId: null,
      port: null,
      form: 'mesh',
      raw: octets,
      heardAtMs: context.now(),
    });
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
      for (const answer of [...waiting.values()])
        answer({ verdict: 'unknown', words: 'the link was switched off before the node confirmed' });
      waiting.clear();
      await client?.endAsync(true);
      client = null;
      await storing;
    },
    state: () => state,
    encode: (leg, transmission) => encodeMeshLeg(config, leg, transmission),
    // A node that is given a packet number again confirms again and sends once (docs/mesh.md).
    repeatable: true,
    air: {
      channel: () => `${config.host}:${config.port}/${base}`,
      ms: (frame) => loraAirTimeMs(Math.min(255, octetsOnAir(frame)), MESH_SETTING),
    },
    transmit: ({ frame }) =>
      new Promise<Taken>((resolve) => {
        const current = client;
        const closed = context.closed();
        if (closed !== null) return resolve({ verdict: 'not taken', words: closed });
        if (!current || state.link !== 'up' || !current.connected)
          return resolve({ verdict: 'not taken', words: state.reason ?? 'not connected' });
        const { id } = JSON.parse(Buffer.from(frame).toString('utf8')) as { id: string };
        const published: { messageId?: number } = {};
        const done = (taken: Taken) => {
          clearTimeout(late);
          if (waiting.get(id) === done) waiting.delete(id);
          // What the broker has not acknowledged would be sent again behind our back at the next connection.
          if (published.messageId !== undefined && taken.verdict !== 'confirmed')
            current.removeOutgoingMessage(published.messageId);
          resolve(taken);
        };
        const late = setTimeout(
          () =>
            done({
              verdict: 'unknown',
              words:
                'the node did not confirm that it took it: it may or may not go out; it is given to it again under the same number',
            }),
          TAKEN_WITHIN_MS,
        );
        waiting.get(id)?.({ verdict: 'unknown', words: 'it was handed over again' });
        waiting.set(id, done);
        current.publish(`${base}/send`, Buffer.from(frame), { qos: 1 }, () => undefined);
        published.messageId = current.getLastMessageId();
        failpoint('mesh:published');
      }),
  };
};

/** Octets of a message's body or seal, and what a packet carries besides. */
function octetsOnAir(frame: Uint8Array): number {
  const { body, sealed } = JSON.parse(Buffer.from(frame).toString('utf8')) as { body: unknown; sealed: string | null };
  const inner = sealed === null ? Buffer.byteLength(JSON.stringify(body)) : Math.floor((sealed.length * 3) / 4);
  return inner + MESH_OVERHEAD_OCTETS;
}
