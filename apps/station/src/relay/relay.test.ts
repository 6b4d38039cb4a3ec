import { randomUUID } from 'node:crypto';
import { decodeFrame, EVERYBODY, latin1OfOctets, loraAirTimeMs, octetsOfHex, repeatedFrame } from '@tombolo/core';
import type { BearerView, ItemDetail, ItemSummary, MeshNodeView, RelayProposal, StandingRule } from '@tombolo/contract';
import { insertBearer } from '../http/routes/bearers';
import type { Station } from '../station';
import { meshConfig, startMeshNode, type MeshNodeUnderTest } from '../testing/mesh-node';
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

const KEY = new Uint8Array(32).fill(7);
const CHANNELS = [
  { name: 'Sound', key: null, kept: false },
  { name: 'Relief', key: Buffer.from(KEY).toString('base64'), kept: false },
];
const OWN = '01D1-0002';
const FARM = '01D1-0005';
const RELIEF = { name: 'Relief', key: KEY };

let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let node: MeshNodeUnderTest;
let station: Station & { api: Api };
let api: Api;
beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  node = await startMeshNode(OWN, FARM, 'Sound');
  station = await startWithModem(database.url, modem, {
    people: [{ name: 'Ferry Office', phone: '+00 555 0142', mail: null, meshNode: null, licensed: false }],
  });
  ({ api } = station);
  await insertBearer(station.context, 'mesh', 'Mesh', meshConfig(node.port, OWN, { channels: CHANNELS }));
  await station.context.bearersChanged();
  await eventually(
    async () =>
      (await api.get<{ id: string; state: { link: string } }[]>('/bearers')).find(({ id }) => id === 'mesh')?.state
        .link === 'up',
  );
  await node.hear({
    addressee: EVERYBODY,
    content: {
      kind: 'announcement',
      tag: 'LSFARM',
      name: 'Farm',
      carrier: false,
      position: { latitude: 41.2851, longitude: -43.2479 },
      batteryPercent: 64,
    },
  });
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
const question = { kind: 'text' as const, n: '01', text: 'Ferry Office: When do you run again?' };

describe('a text in the mesh', () => {
  it('to us is kept once and acknowledged each time, by the number of its packet; its road shows hops without names', async () => {
    const first = await node.hear({ content: question });
    const item = await arrived('When do you run');
    await eventually(() => node.sent.length === 1);
    await answersAreOut(station);
    const second = await node.hear({ content: question, hops: 2 });
    await eventually(() => node.sent.length === 2);
    expect(node.sent.map(({ addressee, content }) => [addressee, content])).toEqual([
      [FARM, { kind: 'acknowledgement', of: first }],
      [FARM, { kind: 'acknowledgement', of: second }],
    ]);
    expect(node.sent[0]!.number).not.toBe(node.sent[1]!.number);
    const { rows } = await api.get<{ rows: ItemSummary[] }>('/items?direction=in');
    expect(rows).toHaveLength(1);
    expect(item.causeway!.stones.map(({ label, known }) => [label, known])).toEqual([
      ['LSFARM', true],
      ['a node of the mesh', false],
      ['SKSCHL', true],
    ]);
  });

  it('of ours is sent, heard repeated, acknowledged – each with its proof – and not before the node took it', async () => {
    const id = randomUUID();
    await api.post('/mesh-texts', { id, bearerId: 'mesh', to: { node: FARM }, channel: 'Relief', body: 'On the way' });
    await eventually(() => node.sent.length > 0);
    const [sent] = node.sent;
    expect(sent).toMatchObject({ sealed: true, addressee: FARM });
    // Header, nonce and tag, kind and number, the text.
    expect(sent!.octets).toHaveLength(18 + 28 + 6 + 10);
    await itemWhen(api, id, (item) => item.status.rung === 'sent');
    // Somebody who uses our number, and a frame that is not what we sent, prove nothing.
    const forged = repeatedFrame(sent!.octets)!;
    forged[forged.length - 1]! ^= 1;
    await node.frame(forged);
    await node.frame(sent!.octets);
    await node.hear({ content: question });
    await arrived('When do you run');
    expect((await api.get<ItemDetail>(`/items/${id}`)).status.rung).toBe('sent');
    await node.frame(repeatedFrame(sent!.octets)!);
    const relayed = await itemWhen(api, id, (item) => item.status.rung === 'relayed');
    expect(relayed.status.words).toBe('relayed by a node of the mesh; not acknowledged yet');
    expect(relayed.causeway!.stones.map(({ label }) => label)).toEqual(['SKSCHL', 'a node of the mesh', 'LSFARM']);
    // The record keeps the octets that prove it.
    const { raw } = relayed.evidence.find(({ kind }) => kind === 'relayed')!;
    expect(octetsOfHex(raw!.slice(raw!.lastIndexOf(' ') + 1))).toEqual(repeatedFrame(sent!.octets));
    // A plain acknowledgement of a sealed text comes from somebody who could not read it; one of another packet proves another.
    await node.hear({ content: { kind: 'acknowledgement', of: sent!.number } });
    await node.hear({ content: { kind: 'acknowledgement', of: '0badcafe' }, channel: RELIEF });
    await node.hear({ content: { ...question, n: '02', text: 'Are you there?' } });
    await arrived('Are you there');
    expect((await api.get<ItemDetail>(`/items/${id}`)).status.rung).toBe('relayed');
    await node.hear({ content: { kind: 'acknowledgement', of: sent!.number }, channel: RELIEF });
    const item = await itemWhen(api, id, (candidate) => candidate.status.rung === 'delivered');
    expect(item.status.words).toBe('delivered: acknowledged in the name of LSFARM');
    const attempts = new Set(node.sent.map(({ number }) => number));
    expect(attempts.size).toBe(node.sent.length);
  });

  it('under a key that is not ours is shown as such, garbage and stale messages are ignored', async () => {
    await node.hear({
      content: { kind: 'text', n: '1', text: 'x' },
      channel: { ...RELIEF, key: new Uint8Array(32).fill(9) },
    });
    const item = await arrived('Cannot be read');
    expect(item).toMatchObject({ heap: 'arrived', body: expect.stringContaining('sealed under a key') });
    const ways = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    expect(ways.length).toBeGreaterThan(0);
    for (const way of ways) expect(way.refused).toContain('Nobody here can read it');

    await node.raw('{');
    await node.raw(JSON.stringify({ v: 2, frame: 'AAAA', snrDb: null, rssiDbm: null, at: new Date().toISOString() }));
    // On an open channel of other people nothing to everybody is for us.
    await node.hear({
      content: { ...question, n: '03', text: 'Others among themselves' },
      addressee: EVERYBODY,
      channel: { name: 'Elsewhere', key: null },
    });
    await node.hear({ content: { ...question, text: 'Old news' }, at: '2020-01-01T00:00:00.000Z' });
    await node.hear({ content: { ...question, n: '02', text: 'Fresh news' } });
    await arrived('Fresh news');
    const { rows } = await api.get<{ rows: ItemSummary[] }>('/items?direction=in');
    expect(rows.some(({ body }) => body === 'Old news' || body.startsWith('Others'))).toBe(false);
    expect(
      (await api.get<{ rows: { reason: string }[] }>('/failures')).rows.map(({ reason }) => reason).sort(),
    ).toEqual(['mesh message: no JSON', 'mesh message: shorter than the header of a mesh frame']);
  });

  it('that does not fit into a frame is refused before anything is queued, sealed ones sooner', async () => {
    const text = (octets: number, channel: string) => ({
      id: randomUUID(),
      bearerId: 'mesh',
      to: { channel },
      channel,
      body: 'x'.repeat(octets),
    });
    expect(await api.post('/mesh-texts', text(204, 'Relief'))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('204 of 203 octets'),
    });
    const fits = text(203, 'Relief');
    await api.post('/mesh-texts', fits);
    await eventually(() => node.sent.length > 0);
    expect(node.sent[0]!.octets).toHaveLength(255);
    expect(await api.post('/mesh-texts', text(232, 'Sound'))).toMatchObject({ status: 422 });
  });
});

describe('the hour’s air time', () => {
  const duty = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!.duty!;
  const text = (body: string) => ({
    id: randomUUID(),
    bearerId: 'mesh',
    to: { channel: 'Sound' },
    channel: 'Sound',
    body,
  });

  it('is spent by what we send and what the node repeats, told once each', async () => {
    expect(await duty()).toMatchObject({ subBand: '868.0–868.6 MHz', usedMs: 0, mostMs: 36_000 });
    const first = text('Water is rising');
    await api.post('/mesh-texts', first);
    await itemWhen(api, first.id, ({ status }) => status.rung === 'sent');
    // 18 + 6 + 15 octets, SF9, 125 kHz, 4/5, preamble 12: 67.25 symbols and more, by the formula of the designer's guide.
    const own = (await duty()).usedMs;
    expect(own).toBe(
      Math.ceil(loraAirTimeMs(39, { spreadingFactor: 9, bandwidthHz: 125_000, codingRate: 1, preambleSymbols: 12 })),
    );
    const repeat = { sender: FARM, number: '00000077', ms: 400, cause: 'repeat', at: new Date().toISOString() };
    await node.tell('transmitted', repeat);
    await node.tell('transmitted', repeat);
    await eventually(async () => (await duty()).usedMs === own + 400);
  });

  it('that is used up makes a text wait, with its reason and time, and it goes out when enough is over', async () => {
    await station.context.database.query(
      `insert into duty_air values ('mesh', '868.0–868.6 MHz', 'before', $1, 36000, 'own')`,
      [new Date(Date.now() - 3_600_000 + 4000)],
    );
    const waiting = text('Water is rising');
    await api.post('/mesh-texts', waiting);
    const item = await itemWhen(api, waiting.id, ({ evidence }) =>
      evidence.some(({ note }) => note?.includes('used up')),
    );
    expect(item.status).toMatchObject({ rung: 'queued', outcome: null });
    expect(node.sent).toHaveLength(0);
    await itemWhen(api, waiting.id, ({ status }) => status.rung === 'sent', 20);
    expect(node.sent).toHaveLength(1);
  }, 30_000);

  it('nothing is sent while the node works on another setting, or none is set', async () => {
    const up = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!.state;
    await node.tell('state', {
      radio: { ...(node.setups[0]!.radio as object), spreadingFactor: 12 },
      tag: 'SKSCHL',
      carrier: false,
    });
    expect(
      (
        await eventually(async () => {
          const state = await up();
          return state.link === 'down' && state;
        })
      ).reason,
    ).toBe('the node is set to 868.3 MHz, SF12, 125 kHz, 4/5, this link to 868.3 MHz, SF9, 125 kHz, 4/5');
    const view = (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!;
    await api.patch('/bearers/mesh', { config: { ...view.config, radio: null } });
    expect(
      (
        await eventually(async () => {
          const state = await up();
          return /not set/.test(state.reason ?? '') && state;
        })
      ).link,
    ).toBe('down');
    const waiting = text('Hello');
    await api.post('/mesh-texts', waiting);
    await api.patch('/bearers/mesh', { config: view.config });
    await itemWhen(api, waiting.id, ({ status }) => status.rung === 'sent', 20);
    expect(node.sent).toHaveLength(1);
  }, 30_000);
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
    await node.hear({ content: question });
    const item = await arrived('When do you run');
    const [way] = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    expect(way).toMatchObject({
      to: 'TELTXT',
      person: 'Ferry Office',
      needsRelease: true,
      refused: null,
      text: 'When do you run again? /LSFARM',
    });
    expect(await release(item.id, way!, { released: false })).toMatchObject({
      status: 409,
      detail: expect.stringContaining('Third-party traffic'),
    });
    expect(modem.sent).toHaveLength(0);
    await release(item.id, way!);
    await eventually(() => modem.sent.length > 0);
    const number = /\{(\w+)$/.exec(lastPacket())![1]!;
    expect(lastPacket()).toBe(`:TELTXT   :005550142: When do you run again? /LSFARM{${number}`);

    const said = (text: string) => modem.hear(`QT1GW-10>APRS:}TELTXT>APRS,TCPIP,QT1GW-10*::QT2AR-7  :${text}`);
    said(`ack${number}`);
    await itemWhen(api, item.id, (candidate) => candidate.status.rung === 'accepted');
    said('Text to 005550142 taken{A1');
    const handedOn = await itemWhen(api, item.id, (candidate) => candidate.status.words === 'handed on by TELTXT');
    // Over the air anybody can use the call of a service: the proof says no more than it can.
    expect(handedOn.evidence.find(({ kind }) => kind === 'handed on')!.note).toContain('said under the call TELTXT');
    said('005550142: Tomorrow 0700Z{A2');
    const proven = await itemWhen(api, item.id, (candidate) => candidate.status.rung === 'answered');
    expect(proven.causeway!.stones.map(({ label }) => label)).toEqual([
      'LSFARM',
      'a node of the mesh',
      'SKSCHL',
      'TELTXT',
      'Ferry Office',
    ]);
    expect(proven.custody.map(({ what, other }) => [what, other])).toEqual([
      ['received', 'LSFARM'],
      ['passed', 'Ferry Office by TELTXT'],
    ]);
    // The word that the service took it needs nobody.
    expect((await arrived('taken')).heap).toBe('filed');

    const answer = await arrived('Tomorrow 0700Z');
    const [back] = await api.get<RelayProposal[]>(`/items/${answer.id}/relays`);
    expect(back).toMatchObject({
      to: 'LSFARM',
      bearerId: 'mesh',
      needsRelease: false,
      text: 'Tomorrow 0700Z /005550142',
    });
    node.sent.length = 0;
    await release(answer.id, back!);
    const text = await eventually(() => node.sent.find(({ content }) => content?.kind === 'text'));
    expect(text).toMatchObject({ addressee: FARM, content: { text: 'Tomorrow 0700Z /005550142' } });
    await node.hear({ content: { kind: 'acknowledgement', of: text.number } });
    await itemWhen(
      api,
      answer.id,
      (candidate) => candidate.status.words === 'delivered: acknowledged in the name of LSFARM',
    );
  }, 30_000);

  it('lets one of two consoles win and tells the other; the same press twice sends once', async () => {
    await node.hear({ content: question });
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
    await node.hear({
      content: { ...question, text: 'Ferry Office: k3Jd0qVXh2YpTz8mWcR5nLb7FsA1uEoG9iKtQxZv4HyDwPaS' },
    });
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
      senders: ['LSFARM'],
      toBearer: RADIO,
      to: 'TELTXT',
      hours: { from: '00:00', until: '23:59' },
      mostPerHour: 1,
    });
    expect(rule.enabled).toBe(false);
    await node.hear({ content: question });
    const item = await arrived('When do you run');
    station.context.rulesChanged();
    await api.patch(`/rules/${rule.id}`, { enabled: true });
    await eventually(() => modem.sent.length > 0);
    const detail = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(detail.custody.at(-1)).toMatchObject({ what: 'passed', by: expect.stringContaining('“Farm to ferry”') });
    await node.hear({ content: { ...question, n: '02', text: 'Ferry Office: And the day after?' } });
    const second = await arrived('day after');
    station.context.rulesChanged();
    await api.patch(`/rules/${rule.id}`, { enabled: true });
    expect((await api.get<ItemDetail>(`/items/${second.id}`)).legs.filter(({ to }) => to === 'TELTXT')).toEqual([]);
  });
});
