import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { encodeAnswer, encodeMessage, frameToSend, octetsOfText } from '@tombolo/core';
import type { BearerView, ItemDetail, ItemSummary, MeshNodeView, PacketDetail, PacketSummary } from '@tombolo/contract';
import {
  MESH_RADIO,
  MESH_ROOT,
  meshNodes,
  OPEN_CHANNEL,
  OWN_CALL,
  RELIEF_CHANNEL,
  services,
  stations,
} from '@tombolo/scenario';
import {
  apiOf,
  createDatabase,
  eventually,
  openSettings,
  startTestStation,
  type Api,
} from '../../apps/station/src/testing/harness';
import { meshText, textTo } from '../../apps/station/src/testing/written';
import { insertBearer } from '../../apps/station/src/http/routes/bearers';
import type { Station } from '../../apps/station/src/station';
import { buildDistrict } from '../../packages/stand-ins/src/district';
import { createWorld, pace, type World } from '../../packages/stand-ins/src/sim/world';
import { serveKissModem } from '../../packages/stand-ins/src/sockets/kiss-modem';
import { serveLineFeed } from '../../packages/stand-ins/src/sockets/line-feed-server';
import { runDigipeater } from '../../packages/stand-ins/src/stations/digipeater';
import { serveMeshNode } from '../../packages/stand-ins/src/mesh/broker';
import { check, comparePacket, compareItem, transmissionsOf, type Tally } from './compare';
import {
  accountOf,
  compareMesh,
  compareMeshItem,
  createMeshRecord,
  runMeshLiar,
  silentOnMesh,
  type MeshRecord,
} from './mesh';
import { doneOnce, doublesIn, turnOnRule } from './doubles';
import { createRecord, type WorldRecord } from './record';

export const AUDITED_BEARER = 'radio';
const RADIO = AUDITED_BEARER;
const MESH = 'mesh';
const MINUTE_MS = 60_000;
/** How long after its try an answer counts (docs/decisions/proof-is-bound.md). */
const PROOF_MS = 2 * 3_600_000;
/** The clocks of a paced world and of a station move in steps. */
const STEPS_MS = 30_000;
/** Real time that a change of the station may take to follow the world. */
const STEP_MS = 60;
/**
 * A machine that is busy holds the world up instead of making it jump, else the clocks of the two would be apart by the jump. What is on its
 * way over a socket needs a few turns of the loop, each of them at most so long for the world: all of them stay within `STEPS_MS`.
 */
const MOST_STEP_MS = 25;
/** Real time in which the account of the hour must hold what was on the air when it was first asked for. */
const ACCOUNT_WITHIN_S = 15;
const PATHS = [['WIDE1-1', 'WIDE2-1'], ['WIDE2-2'], ['LOCAL', 'WIDE1-1'], [], ['WIDE1-1', stations.stacksDigi.call]];
const TO = [stations.lifeboat, stations.clinic, stations.shelter, stations.truck, stations.netControl].map(
  ({ call }) => call,
);

export interface Audit {
  readonly tally: Tally;
  readonly items: number;
  readonly transmissions: number;
  readonly worldMinutes: number;
  readonly restarts: number;
  /** What could have been done twice, in words. */
  readonly once: string;
  /** What happened, and what the station showed last, for whoever wants to see the comparison fail. */
  readonly record: WorldRecord;
  readonly meshRecord: MeshRecord;
  readonly last: {
    readonly items: readonly ItemDetail[];
    readonly packets: readonly PacketDetail[];
    readonly mesh: readonly ItemDetail[];
  };
}

/**
 * A piece of a day in the district at sixty times its pace, on a virtual clock: the station and the world in one process, over real
 * sockets and a real database. At every look everything that the station claims is held against what happened. It goes on beyond its
 * time until it has made so many comparisons, as far as real time allows. Of several processes on one database, with a standing rule on,
 * nothing may be done twice either.
 */
export async function audit(
  worldMinutes: number,
  seed: string,
  restarts: number,
  { claims: leastClaims = 0, withinMs = Infinity, processes = 1 } = {},
): Promise<Audit> {
  const startMs = Date.UTC(2026, 10, 26, 6);
  const world = createWorld(startMs, seed);
  const record = createRecord();
  const feed = serveLineFeed();
  const district = buildDistrict(world, { scriptStartMs: startMs, publish: feed.publish });
  district.channel.onTransmission((by, frame, receivedBy) => record.note(by, frame, receivedBy, world.now()));
  const lastNumbers = runLiars(world, district, feed.publish);
  const meshRecord = createMeshRecord();
  district.meshAir.onTransmission((by, octets, receivedBy) => meshRecord.note(by, octets, receivedBy, world.now()));
  runMeshLiar(world, district.meshAir, () => meshRecord.by(meshNodes.school.node));
  const pacer = pace(world, 60, MOST_STEP_MS);
  const broker = await serveMeshNode(district.meshPort, MESH_ROOT, {
    touch: pacer.touch,
    // The station lives by the clock of the world here, and its node with it.
    speed: () => 1,
    port: 0,
    now: world.now,
  });
  const modem = serveKissModem(district.modemRadio, pacer.touch);
  const listen = async (server: ReturnType<typeof serveKissModem>) => {
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    return (server.address() as AddressInfo).port;
  };
  const [kissPort, feedPort] = [await listen(modem), await listen(feed.server)];
  const database = await createDatabase();
  const start = () => startTestStation(database.url, { now: world.now });
  const serving: Station[] = [];
  for (let n = 0; n < processes; n++) serving.push(await start());
  const [station] = serving as [Station];
  /** Of several processes each is asked in its turn; they must tell the same. */
  let asked = 0;
  const api = new Proxy({} as Api, {
    get: (_, method: keyof Api) => apiOf(serving[asked++ % serving.length]!)[method],
  });
  await api.patch('/settings', {
    ...openSettings,
    retry: { firstS: 64, factor: 1.5, capS: 300, tries: 3, jitter: 0.2 },
  });
  await api.post('/services', { format: 'tombolo services', version: 1, services });
  await insertBearer(station.context, RADIO, 'Radio', {
    kind: 'kiss-tcp',
    host: '127.0.0.1',
    port: kissPort,
    modemPort: 0,
    frequencyMHz: null,
    txDelayMs: 300,
    persistencePercent: 25,
    slotMs: 100,
    path: ['WIDE1-1', 'WIDE2-1'],
    confirms: false,
  });
  await insertBearer(station.context, 'feed', 'Feed', {
    kind: 'line-feed',
    host: '127.0.0.1',
    port: feedPort,
    answerOver: null,
  });
  await insertBearer(station.context, MESH, 'Mesh', {
    kind: 'mesh-mqtt',
    host: '127.0.0.1',
    port: broker.port,
    root: MESH_ROOT,
    node: meshNodes.school.node,
    tag: meshNodes.school.tag,
    name: meshNodes.school.name,
    carrier: false,
    hopLimit: 4,
    announceMin: 20,
    radio: MESH_RADIO,
    channels: [
      { ...OPEN_CHANNEL, kept: false },
      { ...RELIEF_CHANNEL, kept: false },
    ],
  });
  for (const one of serving) await one.context.bearersChanged();
  await linksUp(api);
  if (processes > 1) await turnOnRule(api, { from: MESH, to: RADIO, id: randomUUID() });

  const tally: Tally = { claims: 0, untruths: [] };
  const chance = world.random('audit');
  const ids: string[] = [];
  const meshIds: string[] = [];
  const seen = new Set<string>();
  let nextTextMs = startMs + 2 * MINUTE_MS;
  let nextMeshMs = startMs + 3 * MINUTE_MS;
  let restarted = 0;
  /** While it was restarted, in the time of the world, it could hear nothing. */
  const deaf: { fromMs: number; untilMs: number }[] = [];
  const heardBy = (atMs: number) => !deaf.some(({ fromMs, untilMs }) => atMs >= fromMs && atMs <= untilMs);
  try {
    const endMs = startMs + worldMinutes * MINUTE_MS;
    const begunAt = Date.now();
    // A busy machine looks less often: then it looks for longer.
    while (world.now() < endMs || (tally.claims < leastClaims && Date.now() - begunAt < withinMs)) {
      if (world.now() >= nextTextMs && world.now() < endMs - 20 * MINUTE_MS) {
        nextTextMs = world.now() + (1 + chance()) * MINUTE_MS;
        const to = TO[ids.length % TO.length]!;
        const text = textTo(to, `Water at ${ids.length} cm by the bar`, {
          path: PATHS[ids.length % PATHS.length]!,
          askAcknowledgement: chance() < 0.85,
        });
        const made = await api.post<ItemDetail>('/items', text);
        ids.push(text.id);
        if (made.number !== null) lastNumbers.push({ to, number: made.number });
      }
      if (world.now() >= nextMeshMs && world.now() < endMs - 20 * MINUTE_MS) {
        nextMeshMs = world.now() + (3 + 3 * chance()) * MINUTE_MS;
        meshIds.push(await writeOnMesh(api, meshIds.length));
      }
      if (
        restarted < restarts &&
        world.now() > startMs + ((restarted + 1) * worldMinutes * MINUTE_MS) / (restarts + 1)
      ) {
        const fromMs = world.now();
        const [stopping] = serving.splice(restarted % serving.length, 1);
        restarted++;
        await stopping!.stop();
        serving.push(await start());
        await linksUp(api);
        deaf.push({ fromMs: fromMs - STEPS_MS, untilMs: world.now() + STEPS_MS });
      }
      await look(api, tally, record, ids, seen);
      await lookAtMesh(api, tally, meshRecord, meshIds, world.now);
      await new Promise((resolve) => setTimeout(resolve, STEP_MS));
    }
    const notShown = async () => [
      ...(await silent(api, record, ids, heardBy)),
      ...silentOnMesh(meshRecord, await itemsOf(api, meshIds), heardBy),
    ];
    await eventually(async () => (await notShown()).length === 0, 20).catch(async () => {
      for (const what of await notShown()) tally.untruths.push({ claim: 'not shown', where: what });
    });
    const { database: queries } = serving[0]!.context;
    if (processes > 1)
      for (const double of await doublesIn(queries, record, OWN_CALL, RADIO))
        tally.untruths.push({ claim: 'done once', where: double });
    const { rows } = await api.get<{ rows: ItemSummary[] }>('/items');
    const last = { ...(await look(api, tally, record, ids, new Set())), mesh: await itemsOf(api, meshIds) };
    return {
      tally,
      items: rows.length,
      transmissions: record.count(),
      worldMinutes,
      restarts: restarted,
      once: await doneOnce(queries, RADIO),
      record,
      meshRecord,
      last,
    };
  } finally {
    pacer.stop();
    for (const one of serving) await one.stop();
    await Promise.all(
      [modem, feed.server].map(
        (server) =>
          new Promise<void>((resolve) => {
            server.close(() => resolve());
            server.emit('close');
          }),
      ),
    );
    await broker.stop();
    await database.drop();
  }
}

/** A station answers so many requests at once (`MOST_AT_ONCE`); it is asked for fewer. */
const AT_ONCE = 24;

async function itemsOf(api: Api, ids: readonly string[]): Promise<ItemDetail[]> {
  const items: ItemDetail[] = [];
  for (let from = 0; from < ids.length; from += AT_ONCE)
    items.push(
      ...(await Promise.all(ids.slice(from, from + AT_ONCE).map((id) => api.get<ItemDetail>(`/items/${id}`)))),
    );
  return items;
}

/** To the farm, to the clinic under the key, to everybody. */
async function writeOnMesh(api: Api, n: number): Promise<string> {
  const ways = [
    { to: meshNodes.farm.node, channel: OPEN_CHANNEL.name },
    { to: meshNodes.clinic.node, channel: RELIEF_CHANNEL.name },
    { to: null, channel: OPEN_CHANNEL.name },
  ];
  const { to, channel } = ways[n % ways.length]!;
  const text = meshText(to, `Sheep no. ${n} is dry`, { bearerId: MESH, channel });
  await api.post('/items', text);
  return text.id;
}

/** What it claims of the mesh: our texts there, those that came, the nodes, the hour. */
async function lookAtMesh(
  api: Api,
  tally: Tally,
  record: MeshRecord,
  ids: readonly string[],
  now: () => number,
): Promise<void> {
  const { rows } = await api.get<{ rows: ItemSummary[] }>('/items?direction=in');
  const came = rows.filter(({ causeway }) => causeway?.stones.at(-1)?.label === meshNodes.school.tag);
  const items = await itemsOf(api, [...ids.slice(-8), ...came.slice(0, 8).map(({ id }) => id)]);
  for (const item of items) compareMeshItem(tally, record, item);
  compareMesh(tally, record, await api.get<MeshNodeView[]>('/mesh-nodes'));
  // What the node tells takes a moment to be kept: so much of the hour must be accounted for soon, and cannot be before.
  const untilMs = now();
  let accounted = { claim: 'no account', holds: false };
  await eventually(async () => {
    const bearer = (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === MESH);
    // The hour goes on meanwhile: what has left it by now is not in the account either.
    accounted = accountOf(bearer?.duty ?? null, record, now(), untilMs);
    return accounted.holds;
  }, ACCOUNT_WITHIN_S).catch(() => undefined);
  check(tally, accounted.holds, accounted.claim, MESH);
}

const linksUp = (api: Api) =>
  eventually(async () => (await api.get<BearerView[]>('/bearers')).every(({ state }) => state.link === 'up'));

/** Everything that the station claims now. */
async function look(
  api: Api,
  tally: Tally,
  record: WorldRecord,
  ids: readonly string[],
  seen: Set<string>,
): Promise<Omit<Audit['last'], 'mesh'>> {
  const items = await itemsOf(api, ids);
  for (const item of items) compareItem(tally, record, item, OWN_CALL, RADIO);
  const { rows } = await api.get<{ rows: PacketSummary[] }>(`/packets?bearerId=${RADIO}&limit=40`);
  const fresh = rows.filter((row) => !seen.has(`${row.id}/${row.copies.length}`));
  const packets = await Promise.all(fresh.map(({ id }) => api.get<PacketDetail>(`/packets/${id}`)));
  for (const packet of packets) {
    seen.add(`${packet.id}/${packet.copies.length}`);
    comparePacket(tally, record, packet, OWN_CALL, RADIO);
  }
  return { items, packets };
}

/** What our radio received about our texts, and the station does not show. */
async function silent(
  api: Api,
  record: WorldRecord,
  ids: readonly string[],
  heardBy: (atMs: number) => boolean,
): Promise<string[]> {
  const missing: string[] = [];
  for (const id of ids) {
    const item = await api.get<ItemDetail>(`/items/${id}`);
    const transmissions = transmissionsOf(record, item);
    const repeats = transmissions.filter(
      (one) => one.by !== OWN_CALL && one.receivedBy.includes(OWN_CALL) && heardBy(one.endedAtMs),
    );
    // An acknowledgement of what has not gone out yet proves nothing, whoever says it.
    const wentOut = (atMs: number) =>
      transmissions.some((one) => one.by === OWN_CALL && one.endedAtMs < atMs && one.endedAtMs > atMs - PROOF_MS);
    const shown = new Set(item.evidence.filter(({ kind }) => kind === 'relayed').map(({ raw }) => raw));
    for (const one of repeats) if (!shown.has(one.line)) missing.push(`repeated: ${one.line}`);
    const acknowledged = record
      .withInfo(`:${OWN_CALL.padEnd(9)}:ack${item.number}`)
      .some(
        (one) =>
          one.packet.source === item.addressee &&
          one.receivedBy.includes(OWN_CALL) &&
          heardBy(one.endedAtMs) &&
          wentOut(one.endedAtMs),
      );
    if (item.number !== null && acknowledged && !item.evidence.some(({ kind }) => kind === 'delivered'))
      missing.push(`acknowledged: ${item.addressee} ${item.number}`);
  }
  return missing;
}

/** Somebody under other people's calls on the air, and a gateway that tells what it did not hear. */
function runLiars(world: World, district: ReturnType<typeof buildDistrict>, publish: (line: Uint8Array) => void) {
  const numbers: { to: string; number: string }[] = [];
  const forger = district.channel.join({
    call: 'QT9ZZ',
    position: { latitude: 41.272, longitude: -43.29 },
    site: { heightM: 20, powerW: 10, gainDbi: 0, clutterDb: 0 },
    noiseDb: 0,
  });
  const unsigned = district.channel.join({
    call: 'QT0UN-5',
    position: { latitude: 41.266, longitude: -43.31 },
    site: { heightM: 60, powerW: 10, gainDbi: 0, clutterDb: 0 },
    noiseDb: 0,
  });
  unsigned.settings.persistence = 1;
  runDigipeater(world, unsigned, 'unsigned');
  const chance = world.random('liars');
  const lie = () => {
    const about = numbers[Math.floor(chance() * numbers.length)];
    const to = about?.to ?? 'QT4LB-8';
    // An answer under another's call: sometimes to a number that is open, sometimes to none.
    const number = about && chance() < 0.3 ? about.number : 'ZZ';
    const ack = encodeAnswer(chance() < 0.8 ? 'ack' : 'rej', OWN_CALL, number);
    const frame = ack.ok ? frameToSend(to, chance() < 0.5 ? [] : ['WIDE1-1'], ack.value) : ack;
    if (frame.ok && chance() < 0.4) forger.send(frame.value);
    const false1 = encodeMessage({ addressee: 'QT1NC', text: 'All is well', number: null });
    const report = false1.ok ? frameToSend('QT4LB-8', ['WIDE1-1'], false1.value) : false1;
    if (report.ok && chance() < 0.3) forger.send(report.value);
    if (chance() < 0.5)
      publish(
        octetsOfText(
          `QT6CL>APRS,QT0TH-3*,qAR,QT9LY-10:>Heard over Tarn Head, says the gateway ${Math.floor(chance() * 99)}`,
        ),
      );
    world.after((1 + 2 * chance()) * MINUTE_MS, lie);
  };
  world.after(3 * MINUTE_MS, lie);
  return numbers;
}
