import { randomUUID } from 'node:crypto';
import { createServer, type AddressInfo, type Socket } from 'node:net';
import { createKissDecoder, EVERYBODY, encodeKiss, KISS_COMMANDS } from '@tombolo/core';
import type { ItemDetail, ItemSummary } from '@tombolo/contract';
import { insertBearer } from '../http/routes/bearers';
import type { Station } from '../station';
import {
  answersAreOut,
  createDatabase,
  eventually,
  itemWhen,
  RADIO,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
  type TestDatabase,
} from '../testing/harness';
import { meshText, textTo } from '../testing/written';
import { meshConfig, startMeshNode, type MeshNodeUnderTest } from '../testing/mesh-node';

const OWN = '01D1-0002';
const FARM = '01D1-0005';
let database: TestDatabase;
let modem: FakeModem;
let node: MeshNodeUnderTest;
let station: Station & { api: Api };
let api: Api;
beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  node = await startMeshNode(OWN, FARM, 'Sound');
  station = await startWithModem(database.url, modem);
  api = station.api;
  await insertBearer(station.context, 'mesh', 'Mesh', meshConfig(node.port, OWN));
  await station.context.bearersChanged();
  await eventually(async () =>
    (await api.get<{ id: string; state: { link: string } }[]>('/bearers')).some(
      ({ id, state }) => id === 'mesh' && state.link === 'up',
    ),
  );
});
afterEach(async () => {
  await station.stop();
  await node.stop();
  await modem.stop();
  await database.drop();
});
const kinds = (item: ItemDetail) => item.evidence.map(({ kind }) => kind);

describe('a node that takes and does not confirm', () => {
  it('gets a broadcast under one number however often, delays no other bearer, and nothing is claimed of it', async () => {
    node.silence();
    const id = randomUUID();
    await api.post('/items', meshText(null, 'To all', { id }));
    await eventually(() => node.sent.length === 1);
    // Meanwhile the radio goes on.
    const text = textTo('QT4LB-8', 'By radio', { askAcknowledgement: false });
    const begun = performance.now();
    await api.post('/items', text);
    await eventually(() => modem.sent.length === 1);
    expect(performance.now() - begun).toBeLessThan(3000);
    const item = await itemWhen(api, id, (one) => kinds(one).includes('expired'), 60);
    expect(new Set(node.sent.map(({ number }) => number)).size).toBe(1);
    expect(node.sent).toHaveLength(3);
    expect(kinds(item)).not.toContain('sent');
    expect(item.status.words).toBe('it may or may not have been sent; tries used up');
  }, 90_000);

  it('gets it again under the same number when it confirms at last, and under a new one only for a further try', async () => {
    node.silence();
    const id = randomUUID();
    await api.post('/items', meshText(FARM, 'To the farm', { id }));
    await eventually(() => node.sent.length === 2, 30);
    expect(node.sent[1]!.number).toBe(node.sent[0]!.number);
    node.speak();
    await itemWhen(api, id, (one) => one.status.rung === 'sent', 30);
    const taken = node.sent.length;
    // Nobody acknowledged it: a further try is another packet of the same text.
    await eventually(() => node.sent.length > taken, 10).catch(() => undefined);
    const numbers = new Set(node.sent.map(({ content }) => content?.kind === 'text' && content.n));
    expect(numbers.size).toBe(1);
    expect(new Set(node.sent.slice(0, taken).map(({ number }) => number)).size).toBe(1);
  }, 90_000);
});

describe('a text of the mesh that comes again', () => {
  it('is the same for a while, and a new one weeks later, from somebody else, or with other words', async () => {
    const content = { kind: 'text' as const, n: '01', text: 'Water is rising' };
    await node.hear({ content });
    const arrived = () => api.get<{ rows: ItemSummary[] }>('/items?direction=in').then(({ rows }) => rows);
    await eventually(async () => (await arrived()).length === 1);
    await eventually(() => node.sent.length === 1);
    await answersAreOut(station);
    await node.hear({ content });
    await eventually(() => node.sent.length === 2);
    expect(await arrived()).toHaveLength(1);
    await node.hear({ content: { ...content, text: 'Water is falling' } });
    await eventually(async () => (await arrived()).length === 2);
    await answersAreOut(station);
    await station.context.database.query(`update item set created_at = created_at - interval '40 days'`);
    await node.hear({ content });
    await eventually(async () => (await arrived()).length === 3);
    // Each that was shown was acknowledged, and none besides.
    await eventually(() => node.sent.length === 4);
  }, 60_000);

  it('costs one row when it cannot be read, however many there are, and none when it is not for us', async () => {
    const content = { kind: 'text' as const, n: '01', text: 'Among themselves' };
    const channel = { name: 'Theirs', key: new Uint8Array(32).fill(9) };
    for (let n = 0; n < 30; n++) await node.hear({ content, channel });
    for (let n = 0; n < 30; n++) await node.hear({ content, channel, addressee: EVERYBODY });
    const rows = await eventually(async () => {
      const all = (await api.get<{ rows: ItemSummary[] }>('/items?direction=in')).rows;
      return all.some(({ body }) => body.startsWith('30 packets')) && all;
    }, 20);
    expect(rows).toHaveLength(1);
  }, 60_000);
});

describe('a modem that confirms what it sent', () => {
  it('makes the difference between given and sent; one that dies with the frame is told as not known', async () => {
    const clients = new Set<Socket>();
    const numbers: Uint8Array[] = [];
    let confirming = true;
    const server = createServer((socket) => {
      clients.add(socket.on('error', () => undefined));
      const decoder = createKissDecoder();
      socket.on('data', (chunk) => {
        for (const event of decoder.push(chunk)) {
          if (event.kind !== 'frame' || event.command !== KISS_COMMANDS.confirm) continue;
          numbers.push(event.data.slice(0, 2));
          if (confirming) socket.write(encodeKiss(event.data.slice(0, 2), 0, KISS_COMMANDS.confirm));
          else socket.destroy();
        }
      });
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    await insertBearer(station.context, 'good', 'Good modem', {
      kind: 'kiss-tcp',
      host: '127.0.0.1',
      port,
      modemPort: 0,
      frequencyMHz: null,
      txDelayMs: 300,
      persistencePercent: 25,
      slotMs: 100,
      path: ['WIDE1-1', 'WIDE2-1'],
      confirms: true,
    });
    await station.context.bearersChanged();
    const noteOf = (item: ItemDetail, kind: string) => item.evidence.find((record) => record.kind === kind)?.note;
    const confirmed = textTo('QT4LB-8', 'Confirmed', { bearerId: 'good', askAcknowledgement: false });
    await api.post('/items', confirmed);
    const sent = await itemWhen(api, confirmed.id, (item) => item.status.rung === 'sent');
    expect(noteOf(sent, 'sent')).toBe('the modem confirmed that it sent it');
    const plain = textTo('QT4LB-8', 'Plain', { bearerId: RADIO, askAcknowledgement: false });
    await api.post('/items', plain);
    expect(noteOf(await itemWhen(api, plain.id, (item) => item.status.rung === 'sent'), 'sent')).toBe(
      'given to the equipment, unconfirmed',
    );
    confirming = false;
    const dying = textTo('QT4LB-8', 'Dying', { bearerId: 'good', askAcknowledgement: false });
    await api.post('/items', dying);
    const item = await itemWhen(api, dying.id, (one) => kinds(one).includes('interrupted'), 20);
    expect(kinds(item)).not.toContain('sent');
    expect(noteOf(item, 'interrupted')).toContain('it may or may not have been transmitted');
    expect(numbers.length).toBe(2);
    for (const client of clients) client.destroy();
    await new Promise((resolve) => server.close(resolve));
  }, 60_000);
});
