import { randomUUID } from 'node:crypto';
import { channelMark, decodeFrame, latin1OfOctets, octetsOfText, sealPayload } from '@tombolo/core';
import type { ItemDetail, ItemSummary, MeshNodeView, RelayProposal, StandingRule } from '@tombolo/contract';
import { insertBearer } from '../http/routes/bearers';
import type { Station } from '../station';
import { startMeshNode, type MeshNodeUnderTest } from '../testing/mesh-node';
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
} from '../testing/harness';

const KEY = Buffer.alloc(32, 7);
const CHANNELS = [
  { name: 'Sound', key: null, kept: false },
  { name: 'Relief', key: KEY.toString('base64'), kept: false },
];
const OWN = '5a100002';
const FARM = '5a100005';
const OPEN = channelMark('Sound', null);

let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let node: MeshNodeUnderTest;
let station: Station & { api: Api };
let api: Api;
beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  node = await startMeshNode(OWN, FARM, OPEN);
  station = await startWithModem(database.url, modem, {
    people: [{ name: 'Ferry Office', phone: '+00 555 0142', mail: null, meshNode: null, licensed: false }],
  });
  ({ api } = station);
  await insertBearer(station.context, 'mesh', 'Mesh', {
    kind: 'mesh-mqtt',
    host: '127.0.0.1',
    port: node.port,
    root: 't',
    node: OWN,
    shortName: 'SKSC',
    longName: 'School',
    hopLimit: 4,
    channels: CHANNELS,
  });
  await station.context.bearersChanged();
  await eventually(
    async () =>
      (await api.get<{ id: string; state: { link: string } }[]>('/bearers')).find(({ id }) => id === 'mesh')?.state
        .link === 'up',
  );
  await node.hear({ body: { kind: 'info', short: 'LSFM', long: 'Farm', router: false } });
  await eventually(async () => (await api.get<MeshNodeView[]>('/mesh-nodes')).length > 0);
});
afterEach(async () => {
  await station.stop();
  await node.stop();
  await modem.stop();
  await database.drop();
});

const arrived = (words: string) =>
  eventually(async () => {
    const { rows } = await api.get<{ rows: ItemSummary[] }>('/items?direction=in');
    return rows.find(({ body }) => body.includes(words));
  });
const lastPacket = () => {
  const frame = decodeFrame(modem.sent.at(-1)!);
  return frame.ok ? latin1OfOctets(frame.value.info) : '';
};
const question = { kind: 'text', n: '01', text: 'Ferry Office: When do you run again?' };

describe('a text in the mesh', () => {
  it('to us is kept once and acknowledged each time; its road shows the repeater', async () => {
    await node.hear({ body: question });
    const item = await arrived('When do you run');
    await eventually(() => node.sent.length === 1);
    await answersAreOut(station);
    await node.hear({ body: question });
    await eventually(() => node.sent.length === 2);
    expect(node.sent.map(({ to, body }) => [to, body])).toEqual([
      [FARM, { kind: 'ack', n: '01' }],
      [FARM, { kind: 'ack', n: '01' }],
    ]);
    expect(node.sent[0]!.id).not.toBe(node.sent[1]!.id);
    const { rows } = await api.get<{ rows: ItemSummary[] }>('/items?direction=in');
    expect(rows).toHaveLength(1);
    expect(item.causeway!.stones.map(({ label }) => label)).toEqual(['LSFM', '5a100003', 'SKSC']);
  });

  it('of ours is sent, heard repeated, acknowledged – each with its proof – and not before the node took it', async () => {
    const id = randomUUID();
    await api.post('/mesh-texts', { id, bearerId: 'mesh', to: { node: FARM }, channel: 'Relief', body: 'On the way' });
    await eventually(() => node.sent.length > 0);
    const [sent] = node.sent;
    expect(sent!.body).toBeNull();
    expect(sent!.sealed).not.toBeNull();
    await itemWhen(api, id, (item) => item.status.rung === 'sent');
    await node.hear({ id: sent!.id, from: OWN, to: FARM, sealed: sent!.sealed });
    await itemWhen(api, id, (item) => item.status.rung === 'relayed');
    const number = (await api.get<ItemDetail>(`/items/${id}`)).number!;
    // A plain acknowledgement of a sealed text comes from somebody who could not read it.
    await node.hear({ to: OWN, body: { kind: 'ack', n: number } });
    await node.hear({ body: question });
    await arrived('When do you run');
    expect((await api.get<ItemDetail>(`/items/${id}`)).status.rung).toBe('relayed');
    const context = { id: '000000ab', from: FARM, to: OWN };
    const ack = octetsOfText(JSON.stringify({ kind: 'ack', n: number }));
    await node.hear({
      ...context,
      sealed: Buffer.from(sealPayload(ack, KEY, new Uint8Array(12).fill(3), context)).toString('base64'),
      channel: channelMark('Relief', KEY),
    });
    const item = await itemWhen(api, id, (candidate) => candidate.status.rung === 'delivered');
    expect(item.status.words).toBe('delivered: acknowledged in the name of LSFM');
    const attempts = new Set(node.sent.map(({ id: packet }) => packet));
    expect(attempts.size).toBe(node.sent.length);
  });

  it('under a key that is not ours is shown as such, garbage and stale messages are ignored', async () => {
    const context = { id: '000000aa', from: FARM, to: OWN };
    const sealed = sealPayload(
      octetsOfText('{"kind":"text","n":"1","text":"x"}'),
      new Uint8Array(32).fill(9),
      new Uint8Array(12),
      context,
    );
    await node.hear({
      ...context,
      sealed: Buffer.from(sealed).toString('base64'),
      channel: channelMark('Relief', KEY),
    });
    const item = await arrived('Cannot be read');
    expect(item).toMatchObject({ heap: 'arrived', body: expect.stringContaining('sealed under a key') });
    const ways = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    expect(ways.length).toBeGreaterThan(0);
    for (const way of ways) expect(way.refused).toContain('Nobody here can read it');

    await node.raw('{');
    await node.raw(JSON.stringify({ v: 1, id: 'x' }));
    await node.hear({ body: { ...question, text: 'Old news' }, at: '2020-01-01T00:00:00.000Z' });
    await node.hear({ body: { ...question, n: '02', text: 'Fresh news' } });
    await arrived('Fresh news');
    const { rows } = await api.get<{ rows: ItemSummary[] }>('/items?direction=in');
    expect(rows.some(({ body }) => body === 'Old news')).toBe(false);
    expect(
      (await api.get<{ rows: { reason: string }[] }>('/failures')).rows.map(({ reason }) => reason).sort(),
    ).toEqual([expect.stringContaining('mesh message: '), 'mesh message: no JSON']);
  });
});

describe('the relay desk', () => {
  const release = (item: string, way: RelayProposal, more: object = {}) =>
    api.post<ItemDetail & { status: number | object; title?: string; detail?: string }>(`/items/${item}/relays`, {
      id: randomUUID(),
      bearerId: way.bearerId,
      to: way.to,
      person: way.person,
      text: way.text,
      released: way.needsRelease,
      ...more,
    });

  it('hands a text on to a phone with its record, and the answer back along the road', async () => {
    await node.hear({ body: question });
    const item = await arrived('When do you run');
    const [way] = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    expect(way).toMatchObject({
      to: 'TELTXT',
      person: 'Ferry Office',
      needsRelease: true,
      refused: null,
      text: 'When do you run again? /LSFM',
    });
    expect(await release(item.id, way!, { released: false })).toMatchObject({
      status: 409,
      detail: expect.stringContaining('Third-party traffic'),
    });
    expect(modem.sent).toHaveLength(0);
    await release(item.id, way!);
    await eventually(() => modem.sent.length > 0);
    const number = /\{(\w+)$/.exec(lastPacket())![1]!;
    expect(lastPacket()).toBe(`:TELTXT   :005550142: When do you run again? /LSFM{${number}`);

    const said = (text: string) => modem.hear(`QT1GW-10>APRS:}TELTXT>APRS,TCPIP,QT1GW-10*::QT2AR-7  :${text}`);
    said(`ack${number}`);
    await itemWhen(api, item.id, (candidate) => candidate.status.rung === 'accepted');
    said('Text to 005550142 taken{A1');
    const handedOn = await itemWhen(api, item.id, (candidate) => candidate.status.words === 'handed on by TELTXT');
    // Over the air anybody can use the call of a service: the proof says no more than it can.
    expect(handedOn.evidence.find(({ kind }) => kind === 'handed on')!.note).toContain('said under the call TELTXT');
    said('005550142: Tomorrow 0700Z{A2');
    const proven = await itemWhen(api, item.id, (candidate) => candidate.status.rung === 'answered');
    expect(proven.causeway!.stones.map(({ label }) => label)).toEqual(
      ['LSFM', '5a100003', 'SKSC', 'WIDE1-1', 'WIDE2-1', 'TELTXT', 'Ferry Office'].filter(
        (label) => !label.startsWith('WIDE'),
      ),
    );
    expect(proven.custody.map(({ what, other }) => [what, other])).toEqual([
      ['received', 'LSFM'],
      ['passed', 'Ferry Office by TELTXT'],
    ]);
    // The word that the service took it needs nobody.
    expect((await arrived('taken')).heap).toBe('filed');

    const answer = await arrived('Tomorrow 0700Z');
    const [back] = await api.get<RelayProposal[]>(`/items/${answer.id}/relays`);
    expect(back).toMatchObject({
      to: 'LSFM',
      bearerId: 'mesh',
      needsRelease: false,
      text: 'Tomorrow 0700Z /005550142',
    });
    node.sent.length = 0;
    await release(answer.id, back!);
    const text = await eventually(() => node.sent.find(({ body }) => body?.kind === 'text'));
    expect(text).toMatchObject({ to: FARM, body: { text: 'Tomorrow 0700Z /005550142' } });
    await node.hear({ body: { kind: 'ack', n: text.body!.n } });
    await itemWhen(
      api,
      answer.id,
      (candidate) => candidate.status.words === 'delivered: acknowledged in the name of LSFM',
    );
  }, 30_000);

  it('lets one of two consoles win and tells the other; the same press twice sends once', async () => {
    await node.hear({ body: question });
    const item = await arrived('When do you run');
    const [way] = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    const both = await Promise.all([release(item.id, way!), release(item.id, way!)]);
    expect(both.filter(({ title }) => title === undefined)).toHaveLength(1);
    expect(both.find(({ title }) => title !== undefined)).toMatchObject({
      status: 409,
      title: 'It was handed on already',
    });
    const detail = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(detail.legs.filter(({ to }) => to === 'TELTXT')).toHaveLength(1);
  });

  it('refuses what is encrypted or too long, names the rule, and keeps the item', async () => {
    await node.hear({ body: { ...question, text: 'Ferry Office: k3Jd0qVXh2YpTz8mWcR5nLb7FsA1uEoG9iKtQxZv4HyDwPaS' } });
    const item = await arrived('k3Jd0q');
    const [way] = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    expect(
      await release(item.id, way!, { text: 'k3Jd0qVXh2YpTz8mWcR5nLb7FsA1uEoG9iKtQxZv4HyDwPaS', released: true }),
    ).toMatchObject({
      status: 409,
      detail: expect.stringContaining('hidden meaning'),
    });
    expect(await release(item.id, way!, { text: 'x'.repeat(60), released: true })).toMatchObject({
      status: 422,
      title: 'The text is too long',
    });
    expect(modem.sent).toHaveLength(0);
    expect((await api.get<ItemDetail>(`/items/${item.id}`)).heap).toBe('needs you');
  });

  it('relays by a standing rule only when it was turned on, within its rate', async () => {
    const rule = await api.post<StandingRule>('/rules', {
      id: randomUUID(),
      name: 'Farm to ferry',
      fromBearer: 'mesh',
      senders: ['LSFM'],
      toBearer: RADIO,
      to: 'TELTXT',
      hours: { from: '00:00', until: '23:59' },
      mostPerHour: 1,
    });
    expect(rule.enabled).toBe(false);
    await node.hear({ body: question });
    const item = await arrived('When do you run');
    station.context.rulesChanged();
    await api.patch(`/rules/${rule.id}`, { enabled: true });
    await eventually(() => modem.sent.length > 0);
    const detail = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(detail.custody.at(-1)).toMatchObject({ what: 'passed', by: expect.stringContaining('“Farm to ferry”') });
    await node.hear({ body: { ...question, n: '02', text: 'Ferry Office: And the day after?' } });
    const second = await arrived('day after');
    station.context.rulesChanged();
    await api.patch(`/rules/${rule.id}`, { enabled: true });
    expect((await api.get<ItemDetail>(`/items/${second.id}`)).legs.filter(({ to }) => to === 'TELTXT')).toEqual([]);
  });
});
