import { randomUUID } from 'node:crypto';
import { channelMark, EVERYBODY, octetsOfHex, repeatedFrame } from '@tombolo/core';
import type {
  BearerView,
  FailureView,
  HeardLink,
  ItemDetail,
  ItemSummary,
  MeshNodeView,
  PacketDetail,
  PacketSummary,
  RelayProposal,
  StationDetail,
  StationView,
} from '@tombolo/contract';
import { rebuilt, answersAreOut, eventually, itemWhen } from '../../testing/harness';
import {
  FARM_NODE as FARM,
  OWN_NODE as OWN,
  question,
  RELIEF,
  startMeshStation,
  type MeshStation,
} from '../../testing/mesh-station';
import { listPerson } from '../../testing/listed';
import { keepServices, PHONE } from '../../testing/services';
import { meshText } from '../../testing/written';

let rig: MeshStation;
let station: MeshStation['station'];
let node: MeshStation['node'];
let api: MeshStation['api'];
let arrived: MeshStation['arrived'];
beforeEach(async () => {
  rig = await startMeshStation();
  ({ station, node, api, arrived } = rig);
  await listPerson(api, 'Ferry Office', { phone: '+00 555 0142' });
});
afterEach(() => rig.stop());

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
    await api.post('/items', meshText(FARM, 'On the way', { id, channel: 'Relief' }));
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
    await keepServices(api, PHONE);
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
    const text = (octets: number, channel: string) => meshText(null, 'x'.repeat(octets), { channel });
    expect(await api.post('/items', text(204, 'Relief'))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('204 of 203 octets'),
    });
    const fits = text(203, 'Relief');
    await api.post('/items', fits);
    await eventually(() => node.sent.length > 0);
    expect(node.sent[0]!.octets).toHaveLength(255);
    expect(await api.post('/items', text(232, 'Sound'))).toMatchObject({ status: 422 });
  });
});

describe('what the mesh hears', () => {
  const packets = (query = '') =>
    api.get<{ rows: PacketSummary[] }>(`/packets?bearerId=mesh${query}`).then(({ rows }) => rows);

  it('is in the record with how well it was received, and each field of it is told', async () => {
    await node.hear({ content: question, hops: 0 });
    const item = await arrived('When do you run');
    const [text] = await packets('&kind=mesh%20text');
    expect(text).toMatchObject({
      source: FARM,
      sourceName: 'LSFARM',
      destination: OWN,
      addressee: OWN,
      summary: `To ${OWN}: Ferry Office: When do you run again?`,
      copies: [{ how: 'direct', words: 'heard direct', snrDb: 4, rssiDbm: -100, hops: 0, bearerId: 'mesh' }],
    });
    // The evidence points at it.
    const detail = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(detail.evidence.find(({ kind }) => kind === 'delivered')!.packetId).toBe(text!.id);
    const packet = await api.get<PacketDetail>(`/packets/${text!.id}`);
    expect(packet.form).toBe('mesh');
    expect(packet.fields.map(({ name, words, from, to }) => [name, words, from, to])).toEqual([
      ['Version and flags', 'version 1', 0, 1],
      ['Channel mark', channelMark('Sound', null), 1, 3],
      ['Sender', FARM, 3, 8],
      ['Addressee', OWN, 8, 13],
      ['Packet number', expect.stringMatching(/^[0-9a-f]{8}$/), 13, 17],
      ['Hops', '0 hops so far, 4 left', 17, 18],
      ['Kind', 'text', 18, 19],
      ['Number of the text', '01', 19, 24],
      ['Text', 'Ferry Office: When do you run again?', 24, 60],
    ]);
    expect(packet.copies[0]!.statements).toMatchObject([
      { words: 'It says that it comes from the sender itself.', certain: true },
    ]);
    // The node is on the chart with what it announced, and its page tells how it was heard.
    const farm = (await api.get<StationView[]>('/stations')).find(({ call }) => call === FARM);
    expect(farm).toMatchObject({
      kind: 'node',
      name: 'LSFARM',
      comment: 'Farm, terminal',
      status: 'battery 64 %',
      latitude: 41.2851,
      how: 'direct',
      packets: 2,
    });
    const page = await api.get<StationDetail>(`/stations/${FARM}`);
    expect(page.statements).toMatchObject([{ words: 'It says that it comes from the sender itself.' }]);
    expect(page.links).toMatchObject([{ from: FARM, by: OWN }]);
    // Who hears whom, and what of the channel was taken.
    expect(await api.get<HeardLink[]>('/heard-links')).toMatchObject([
      {
        from: FARM,
        by: OWN,
        fromName: `LSFARM ${FARM}`,
        byName: `SKSCHL ${OWN}`,
        count: 1,
        certainCount: 1,
      },
    ]);
    const mesh = (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!;
    expect(mesh.heardLastHour).toBe(2);
    expect(mesh.load).toBeGreaterThan(0);
    // Capture files hold packets of AX.25.
    expect(await (await api.send('/exports/heard.txt')).text()).not.toContain('When do you run');
  });

  it('is one packet however often it comes round, and another one when a word of it is other', async () => {
    const number = await node.hear({ content: question, hops: 1 });
    await node.hear({ content: question, number, hops: 2 });
    await node.hear({ content: { ...question, n: '02', text: 'Something else' }, number, hops: 1 });
    await arrived('Something else');
    await eventually(async () => (await packets('&kind=mesh%20text')).length === 2);
    const [other, text] = await packets('&kind=mesh%20text');
    expect(text!.copies.map(({ words, hops }) => [words, hops])).toEqual([
      ['over 1 hop of the mesh', 1],
      ['over 2 hops of the mesh', 2],
    ]);
    expect(other!.copies).toHaveLength(1);
    // Only what the sender itself transmitted tells who hears whom.
    expect(await api.get<HeardLink[]>('/heard-links')).toEqual([]);
    expect(
      (await api.get<PacketDetail>(`/packets/${text!.id}`)).copies[1]!.statements.map(({ words }) => words),
    ).toEqual(['It says that 2 nodes one after the other repeated it.', 'Which nodes they were is not told.']);
  });

  it('stays sealed in the record, and the nodes are made anew from it', async () => {
    await node.hear({ content: question, channel: RELIEF });
    await arrived('When do you run');
    const [sealed] = await packets('&kind=mesh%20sealed');
    expect(sealed!.summary).toMatch(/^To 01D1-0002: sealed, \d+ octets, channel [0-9a-f]{4}$/);
    const before = await api.get<MeshNodeView[]>('/mesh-nodes');
    await station.context.database.query('delete from mesh_node');
    await station.context.database.query('insert into rebuild_wanted values (now())');
    await rebuilt(station);
    expect(await api.get<MeshNodeView[]>('/mesh-nodes')).toEqual(before);
    expect(before[0]).toMatchObject({ tag: 'LSFARM', name: 'Farm', snrDb: 4, hops: 1, batteryPercent: 64 });
  });

  it('of a node that had told no tag bears its number, and its tag as soon as that is told', async () => {
    const sender = '0BAD-0007';
    await node.hear({ sender, content: { kind: 'text', n: '01', text: 'Who am I?' } });
    const item = await arrived('Who am I');
    expect(item.sender).toBe(sender);
    const known = { node: sender, name: 'Mill', carrier: false, latitude: null, longitude: null, percent: null };
    await node.tell('known', { nodes: [{ ...known, tag: 'MILL', at: new Date().toISOString() }] }, true);
    await eventually(async () => (await arrived('Who am I')).sender === 'MILL');
    expect((await arrived('Who am I')).causeway!.stones[0]!.label).toBe('MILL');
  });

  it('of a node whose tag could pass for a station or a service bears its number', async () => {
    await keepServices(api, PHONE);
    for (const [i, tag] of ['QT1NC', 'TELTXT'].entries()) {
      const sender = `0BAD-000${i}`;
      const announcement = {
        kind: 'announcement' as const,
        name: 'Net',
        carrier: false,
        position: null,
        batteryPercent: null,
      };
      await node.hear({ sender, addressee: EVERYBODY, content: { ...announcement, tag } });
      await node.hear({ sender, content: { kind: 'text', n: '01', text: `All is well, says ${tag}` } });
      const item = await arrived(`says ${tag}`);
      expect(item.sender).toBe(sender);
      expect(await api.get<StationDetail>(`/stations/${sender}`)).toMatchObject({
        name: sender,
        comment: `calls itself ${tag}, Net, terminal`,
      });
    }
    expect((await api.get<MeshNodeView[]>('/mesh-nodes')).map(({ tag }) => tag).sort()).toEqual([
      '0BAD-0000',
      '0BAD-0001',
      'LSFARM',
    ]);
  });

  it('whose body is none is kept as not understood, with the place', async () => {
    await node.hear({ body: Uint8Array.of(9, 1, 2) });
    const failures = await eventually(async () => {
      const { rows } = await api.get<{ rows: FailureView[] }>('/failures');
      return rows.length > 0 && rows;
    });
    expect(failures).toMatchObject([{ reason: 'kind 9 of body is not known', offset: 18, bearerId: 'mesh' }]);
    expect((await packets('&kind=not%20understood')).length).toBe(1);
  });
});
