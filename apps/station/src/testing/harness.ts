import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { dirname } from 'node:path';
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { Client } from 'pg';
import {
  createKissDecoder,
  decodeFrame,
  formatMonitorLine,
  packetOfFrame,
  textOfOctets,
  encodeKiss,
  frameOfPacket,
  encodeFrame,
  octetsOfText,
  parseMonitorLine,
} from '@tombolo/core';
import type { BearerView, ItemDetail, SettingsChange } from '@tombolo/contract';
import { insertBearer } from '../http/routes/bearers';
import { heavyFilesIn } from '../heavy/files';
import { rebuildIfWanted, rebuildWanted } from '../ingest/derived/rebuild';
import { startStation, type Station, type StationOptions } from '../station';

/** The roles of the cluster that the test command started, each as the beginning of an address. */
const cluster = (): Record<'admin' | 'owner' | 'app' | 'backup', string> => {
  const told = process.env.TOMBOLO_TEST_CLUSTER;
  if (!told) throw new Error('these tests need a PostgreSQL cluster: run them by "npm test"');
  return JSON.parse(told) as ReturnType<typeof cluster>;
};

export interface TestDatabase {
  /** As the role that the station works as. */
  readonly url: string;
  readonly ownerUrl: string;
  readonly backupUrl: string;
  readonly adminUrl: string;
  drop(): Promise<void>;
}

/** A fresh database; up to date unless `empty`. */
export async function createDatabase({ empty = false } = {}): Promise<TestDatabase> {
  const { admin, owner, app, backup } = cluster();
  const name = `test_${randomUUID().replaceAll('-', '')}`;
  const run = async (sql: string) => {
    const client = new Client({ connectionString: `${admin}postgres` });
    await client.connect();
    try {
      await client.query(sql);
    } finally {
      await client.end();
    }
  };
  await run(
    `create database ${name} owner tombolo_owner ${empty ? '' : 'template tombolo_template strategy file_copy'}`,
  );
  return {
    url: `${app}${name}`,
    ownerUrl: `${owner}${name}`,
    backupUrl: `${backup}${name}`,
    adminUrl: `${admin}${name}`,
    drop: () => run(`drop database ${name} with (force)`),
  };
}

/** Asks until it is so; fails after `seconds`. */
export async function eventually<T>(
  ask: () => Promise<T | undefined | false> | T | undefined | false,
  seconds = 20,
): Promise<T> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    const answer = await ask();
    if (answer) return answer;
    if (Date.now() > end) throw new Error(`it did not happen within ${seconds} s`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

/** A modem under the test's control: what the station sent, and a way to let it hear. */
export interface FakeModem {
  readonly port: number;
  readonly sent: Uint8Array[];
  /** Lets the station hear a packet written as monitor text. */
  hear(line: string): void;
  hearOctets(octets: Uint8Array): void;
  /** The same, and waits until the station has read enough of it. */
  hearSlowly(octets: Uint8Array): Promise<void>;
  /** Calls back for each frame that the station sent. */
  onSent(call: (frame: Uint8Array) => void): void;
  connections(): number;
  /** Breaks all connections. */
  cut(): void;
  stop(): Promise<void>;
}

export async function startModem(port = 0): Promise<FakeModem> {
  const clients = new Set<Socket>();
  const sent: Uint8Array[] = [];
  const onSent: ((frame: Uint8Array) => void)[] = [];
  const server: Server = createServer((client) => {
    clients.add(client);
    const decoder = createKissDecoder();
    client.on('data', (chunk) => {
      for (const event of decoder.push(chunk)) {
        if (event.kind !== 'frame' || event.command !== 0) continue;
        const frame = event.data.slice();
        sent.push(frame);
        for (const call of onSent) call(frame);
      }
    });
    client.on('error', () => undefined);
    client.on('close', () => clients.delete(client));
  });
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  const hearOctets = (octets: Uint8Array) => clients.forEach((client) => client.write(octets));
  return {
    port: (server.address() as AddressInfo).port,
    sent,
    hearOctets,
    async hearSlowly(octets) {
      for (const client of clients) if (!client.write(octets)) await once(client, 'drain');
    },
    hear: (line) => hearOctets(encodeKiss(frameOctets(line))),
    onSent: (call) => onSent.push(call),
    connections: () => clients.size,
    cut: () => clients.forEach((client) => client.destroy()),
    stop: () =>
      new Promise((resolve) => {
        clients.forEach((client) => client.destroy());
        server.close(() => resolve());
      }),
  };
}

export function frameOctets(line: string): Uint8Array {
  const packet = parseMonitorLine(octetsOfText(line), { escapes: true });
  const frame = packet.ok ? frameOfPacket(packet.value) : packet;
  const octets = frame.ok ? encodeFrame(frame.value) : frame;
  if (!octets.ok) throw new Error(octets.error.reason);
  return octets.value;
}

export const RADIO = 'radio';

export const openSettings: SettingsChange = {
  call: 'QT2AR',
  ssid: 7,
  licenceConfirmed: true,
  antennaConfirmed: true,
  position: { latitude: 41.269, longitude: -43.285 },
  retry: { firstS: 1, factor: 1, capS: 1, tries: 3, jitter: 0 },
};

export async function startTestStation(databaseUrl: string, options: Partial<StationOptions> = {}): Promise<Station> {
  return startStation({
    databaseUrl,
    port: 0,
    webFolder: null,
    simulationUrl: null,
    version: 'test',
    heavy: heavyFilesIn(dirname(process.env.TOMBOLO_STATION!)),
    log: () => undefined,
    ...options,
  });
}

/** A station with open settings and a modem that is up. */
export async function startWithModem(
  databaseUrl: string,
  modem: FakeModem,
  settings: SettingsChange = {},
  options: Partial<StationOptions> = {},
): Promise<Station & { api: Api }> {
  const station = await startTestStation(databaseUrl, options);
  const api = apiOf(station);
  await api.patch('/settings', { ...openSettings, ...settings });
  await insertBearer(station.context, RADIO, 'Radio', {
    kind: 'kiss-tcp',
    host: '127.0.0.1',
    port: modem.port,
    modemPort: 0,
    frequencyMHz: null,
    txDelayMs: 300,
    persistencePercent: 25,
    slotMs: 100,
    path: ['WIDE1-1', 'WIDE2-1'],
    confirms: false,
  });
  await station.context.bearersChanged();
  // The modem sees a connection before the station does, which sends nothing over a link that is not up to it.
  await eventually(
    async () =>
      modem.connections() > 0 &&
      (await api.get<BearerView[]>('/bearers')).some(({ id, state }) => id === RADIO && state.link === 'up'),
  );
  return { ...station, api };
}

/** What `eachWithModem` gives; there within a test. */
export interface WithModem {
  database: TestDatabase;
  modem: FakeModem;
  station: Station & { api: Api };
  readonly api: Api;
  /** How far the clock of the station is put on, ms. */
  aheadMs: number;
  readonly clock: () => number;
  /** Stops the station, and starts it again on the same database. */
  restart(): Promise<void>;
  /** What was sent, as monitor text. */
  lines(): string[];
}

/** A frame as monitor text. */
function lineOfFrame(octets: Uint8Array): string {
  const frame = decodeFrame(octets);
  const packet = frame.ok ? packetOfFrame(frame.value) : frame;
  if (!packet.ok) throw new Error(packet.error.reason);
  return textOfOctets(formatMonitorLine(packet.value, { escapes: true }));
}

/** A database, a modem and a station that may send, new for each test of a file. */
export function eachWithModem(settings: SettingsChange = {}): WithModem {
  const start = async () => {
    at.station = await startWithModem(at.database.url, at.modem, settings, { now: at.clock });
  };
  const at = {
    get api() {
      return at.station.api;
    },
    clock: () => Date.now() + at.aheadMs,
    async restart() {
      await at.station.stop();
      await start();
    },
    lines: () => at.modem.sent.map(lineOfFrame),
  } as WithModem;
  beforeEach(async () => {
    at.aheadMs = 0;
    at.database = await createDatabase();
    at.modem = await startModem();
    await start();
  });
  afterEach(async () => {
    await at.station.stop();
    await at.modem.stop();
    await at.database.drop();
  });
  return at;
}

export interface Api {
  get<T = any>(path: string): Promise<T>;
  post<T = any>(path: string, body: unknown): Promise<T>;
  patch<T = any>(path: string, body: unknown): Promise<T>;
  put<T = any>(path: string, body: unknown): Promise<T>;
  send(path: string, init?: RequestInit): Promise<Response>;
}

export function apiOf(station: Pick<Station, 'url'>): Api {
  const send = (path: string, init?: RequestInit) => fetch(`${station.url}/api/v1${path}`, init);
  const json = (method: string) => async (path: string, body?: unknown) => {
    const answer = await send(path, {
      method,
      ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
    return answer.status === 204 ? null : answer.json();
  };
  return { send, get: json('GET'), post: json('POST'), patch: json('PATCH'), put: json('PUT') } as Api;
}

/** Waits until an item's status meets a condition, and gives it. */
export const itemWhen = (
  api: Api,
  id: string,
  meets: (item: ItemDetail) => boolean,
  seconds = 10,
): Promise<ItemDetail> =>
  eventually(async () => {
    const item = await api.get<ItemDetail>(`/items/${id}`);
    return item.status && meets(item) ? item : undefined;
  }, seconds);

/** Makes anew what is derived, if that was asked for; by the station's own turn when that comes first. */
export async function rebuilt({ context: { database, settings } }: Pick<Station, 'context'>): Promise<void> {
  await rebuildIfWanted({ database, settings, now: Date.now, log: () => undefined });
  await eventually(async () => !(await rebuildWanted(database)));
}

/** As if so much time had passed that nothing that comes is a copy of what was heard. */
export const forgetCopies = (station: Pick<Station, 'context'>): Promise<unknown> =>
  station.context.database.query(`update packet set identity = '\\x00'`);

/** Waits until every answer that was due is out and on record: while one waits, the same is not queued again. */
export const answersAreOut = (station: Pick<Station, 'context'>): Promise<boolean> =>
  eventually(async () => {
    const [row] = (await station.context.database.query(
      `select count(*)::int as n from leg where role <> 'convey' and next_at is not null`,
    )) as [{ n: number }];
    return row.n === 0;
  });
