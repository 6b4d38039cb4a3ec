import mqtt, { type MqttClient } from 'mqtt';
import type { BearerState } from '@tombolo/contract';
import {
  formatInvitation,
  dutyRuleOf,
  meshAirTimeMs,
  meshRadioWords,
  MESH_MOST_WAIT_MS,
  sameMeshRadio,
} from '@tombolo/core';
import { createInTurn } from '../../in-turn';
import { noteKnown } from '../../ingest/mesh/nodes';
import { appendEvents } from '../../store/events';
import { failpoint } from '../../store/failpoints';
import type { Taken } from '../../transmissions/taken';
import type { BearerAdapter, BearerFactory } from '../bearer';
import { encodeMeshLeg } from './encode';
import { noteMinutes } from './own-air-time';
import { setupOf } from './setup';
import {
  parseMeshAccount,
  parseMeshHeard,
  parseMeshKnown,
  parseMeshState,
  parseMeshTaken,
  type MeshAccount,
  type MeshNodeState,
} from './wire';

const TAKEN_WITHIN_MS = 10_000;
const RECONNECT_MS = 2000;
/** A held node is told at once; this is for what nobody tells of. */
const FOLLOW_GATE_MS = 2000;
/** A packet stamped longer ago than this is a stale message of the broker, not something heard now. */
const STALE_MS = 15 * 60_000;

/** The node of a mesh, spoken to over MQTT as docs/mesh.md says. */
const createMeshMqtt: BearerFactory<'mesh-mqtt'> = (config, context) => {
  const base = `${config.root}/${config.node}`;
  const { radio } = config;
  const rule = radio && dutyRuleOf(radio.frequencyHz, radio.bandwidthHz);
  const waiting = new Map<string, (taken: Taken) => void>();
  let client: MqttClient | null = null;
  const inTurn = createInTurn();
  const iso = () => new Date(context.now()).toISOString();
  let state: BearerState = { link: 'off', since: iso(), reason: null, nextTryAt: null };
  const change = (link: BearerState['link'], reason: string | null) => {
    if (state.link === link && state.reason === reason) return;
    state = { link, reason, nextTryAt: null, since: link === state.link ? state.since : iso() };
    context.stateChanged();
  };

  /** What the node tells of itself and others, in its order. */
  const storeTold = (work: () => Promise<void>) =>
    void inTurn(work).catch((error: Error) =>
      context.log(`mesh: what the node told could not be stored: ${error.message}`),
    );
  /** Told whole each time, so that what was missed while nobody listened is made good. */
  let unkept: MeshAccount | null = null;
  const keepAccount = () =>
    storeTold(async () => {
      const account = unkept;
      if (!account) return;
      if (rule)
        await context.database.transaction((manager) =>
          noteMinutes(manager, { bearerId: context.id, subBand: rule.subBand, account, nowMs: context.now() }),
        );
      // Another was told meanwhile, or the broker was connected anew.
      if (unkept !== account) return;
      unkept = null;
      accountKept = true;
      judge();
    });
  /** What the node said since the broker was connected: how it is set, and what it was on the air by itself. */
  let told: MeshNodeState | null = null;
  let accountKept = false;
  /**
   * Up only while the node works as this bearer is set, else every figure of air time would be another one; and not before it is known what
   * it was on the air by itself, else the account of the hour would be too small.
   */
  const judge = () => {
    if (!radio || !told || !client?.connected) return;
    if (!told.radio) return change('down', 'the node has no frequency and modem setting');
    if (!sameMeshRadio(told.radio, radio))
      return change(
        'down',
        `the node is set to ${meshRadioWords(told.radio)}, this bearer to ${meshRadioWords(radio)}`,
      );
    if (accountKept) change('up', null);
    else change('connecting', 'waiting for the node to say what it was on the air');
  };
  let toldSilent: boolean | null = null;
  const tellSetup = () => {
    toldSilent = context.closed() !== null;
    client?.publish(`${base}/setup`, JSON.stringify(setupOf(config, toldSilent)), { qos: 1, retain: true });
  };
  /** What the operator holds or lets go holds for the node as well. */
  const followGate = () => {
    // What could not be stored, since the database was away, is tried again.
    if (unkept) keepAccount();
    if (client?.connected && toldSilent !== null && toldSilent !== (context.closed() !== null)) tellSetup();
  };
  let following: NodeJS.Timeout | null = null;

  const receive = (topic: string, octets: Buffer, retained: boolean) => {
    const notAsDescribed = (reason: string) =>
      context.log(`mesh: a message that is not as described was ignored: ${topic.slice(base.length + 1)}: ${reason}`);
    switch (topic.slice(base.length + 1)) {
      case 'taken': {
        const taken = parseMeshTaken(octets);
        if (!taken.ok) return notAsDescribed(taken.error.reason);
        waiting.get(taken.value.number)?.({ verdict: 'confirmed', words: 'the node took it' });
        waiting.delete(taken.value.number);
        return;
      }
      case 'known': {
        const known = parseMeshKnown(octets);
        if (!known.ok) return notAsDescribed(known.error.reason);
        return storeTold(() =>
          context.database.transaction(async (manager) => {
            await noteKnown(manager, context.id, config.node, known.value.nodes, context.now());
            await appendEvents(manager, [{ type: 'mesh', data: { bearerId: context.id } }], new Date(context.now()));
          }),
        );
      }
      case 'state': {
        // The broker says so in the node's name when it is gone.
        if (octets.length === 0) {
          told = null;
          return change('down', 'the node has left the broker');
        }
        const said = parseMeshState(octets);
        if (!said.ok) return notAsDescribed(said.error.reason);
        told = said.value;
        return judge();
      }
      case 'account': {
        const account = parseMeshAccount(octets);
        if (!account.ok) return notAsDescribed(account.error.reason);
        unkept = account.value;
        return keepAccount();
      }
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
      context.log(
        `mesh: a stale message of the broker was ignored (${heard.value.frame.sender} ${heard.value.frame.number})`,
      );
      return;
    }
    // By the same door as everything that is heard, so that it waits while the database is away.
    context.heard({
      bearerId: context.id,
      importId: null,
      port: null,
      form: 'mesh',
      raw: heard.value.octets,
      heardAtMs: context.now(),
      frequencyHz: config.radio?.frequencyHz ?? null,
      signal: { snrDb: heard.value.snrDb, rssiDbm: heard.value.rssiDbm },
    });
  };

  return {
    tuned: () => ({ port: null, frequencyHz: radio?.frequencyHz ?? null }),
    start() {
      if (client) return;
      if (!radio)
        return change(
          'down',
          'the frequency and modem setting are not set: open the bearer and set them before anything is sent',
        );
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
      following = setInterval(followGate, FOLLOW_GATE_MS);
      opened.on('connect', () => {
        told = null;
        unkept = null;
        accountKept = false;
        opened.subscribe(
          ['heard', 'taken', 'known', 'state', 'account'].map((topic) => `${base}/${topic}`),
          { qos: 1 },
          (error) => {
            if (error) return change('down', `the broker does not let us listen: ${error.message}`);
            change('connecting', 'waiting for the node to say how it is set');
            tellSetup();
          },
        );
      });
      opened.on('message', (topic, octets, packet) => receive(topic, octets, packet.retain));
      opened.on('close', () => {
        if (state.link !== 'off')
          change('down', (state.link === 'down' && state.reason) || 'the broker is not connected');
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
      if (following) clearInterval(following);
      change('off', null);
      for (const answer of [...waiting.values()])
        answer({ verdict: 'unknown', words: 'the bearer was switched off before the node confirmed' });
      waiting.clear();
      await client?.endAsync(true);
      client = null;
      await inTurn.idle();
    },
    state: () => state,
    wake: followGate,
    encode: (leg, transmission) => encodeMeshLeg(config, leg, transmission),
    // A node that is given a packet number again confirms again and sends once (docs/mesh.md).
    repeatable: true,
    air: {
      channel: () => `${config.host}:${config.port}/${base}`,
      ms: (frame) => (radio ? meshAirTimeMs(frame.length, radio) : 0),
      mostWaitMs: MESH_MOST_WAIT_MS,
    },
    ...(rule && { duty: rule }),
    transmit: ({ frame, identity }) =>
      new Promise<Taken>((resolve) => {
        const current = client;
        const closed = context.closed();
        if (closed !== null) return resolve({ verdict: 'not taken', words: closed });
        if (!current || state.link !== 'up' || !current.connected)
          return resolve({ verdict: 'not taken', words: state.reason ?? 'not connected' });
        const id = identity.toString().slice('mesh/'.length);
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
        const message = JSON.stringify({ v: 2, frame: Buffer.from(frame).toString('base64') });
        current.publish(`${base}/send`, message, { qos: 1 }, () => undefined);
        published.messageId = current.getLastMessageId();
        failpoint('mesh:published');
      }),
  };
};

export const meshMqtt: BearerAdapter<'mesh-mqtt'> = {
  kind: 'mesh-mqtt',
  create: createMeshMqtt,
  tuned: ({ radio }) => ({ port: null, frequencyHz: radio?.frequencyHz ?? null }),
  frameMs: ({ radio }) => radio && ((frame) => meshAirTimeMs(frame.length, radio)),
  invitation({ channels }, wanted) {
    const channel = channels.find(({ name }) => name === wanted);
    return channel ? formatInvitation(channel) : null;
  },
};
