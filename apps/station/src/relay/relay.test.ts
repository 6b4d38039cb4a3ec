import { randomUUID } from 'node:crypto';
import { decodeFrame, latin1OfOctets } from '@tombolo/core';
import type { ItemDetail, RelayProposal, StandingRule } from '@tombolo/contract';
import { eventually, itemWhen, RADIO } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { keepServices, PHONE } from '../testing/services';
import { planningOf } from '../planning/of-station';
import { applyRules } from './rules';
import { proposeRelays } from './verdict';
import { FARM_NODE, question, startMeshStation, type MeshStation } from '../testing/mesh-station';

let rig: MeshStation;
let station: MeshStation['station'];
let node: MeshStation['node'];
let modem: MeshStation['modem'];
let api: MeshStation['api'];
let arrived: MeshStation['arrived'];
beforeEach(async () => {
  rig = await startMeshStation();
  ({ station, node, modem, api, arrived } = rig);
  await listPerson(api, 'Ferry Office', { phone: '+00 555 0142' });
  await keepServices(api, PHONE);
});
afterEach(() => rig.stop());

const lastPacket = () => {
  const frame = decodeFrame(modem.sent.at(-1)!);
  return frame.ok ? latin1OfOctets(frame.value.info) : '';
};

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

  it('goes by the path that was planned and told, with its chance, and what was expected is kept', async () => {
    // It was heard straight, again and again; nobody repeats here.
    for (let n = 0; n < 6; n++) modem.hear(`TELTXT>APZTMB:>Day ${n}`);
    await eventually(async () => {
      const [row] = await station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
      return row.n >= 6;
    });
    await node.hear({ content: question });
    const item = await arrived('When do you run');
    const [way] = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    expect(way!.planned).toMatchObject({ path: [], takenBy: 'TELTXT' });
    expect(way!.planned!.arrives).toBeGreaterThan(0.5);
    expect(way!.planned!.proven).toBeLessThanOrEqual(way!.planned!.arrives);
    // To everybody on a channel there is no chance to tell.
    const all = (await api.get<RelayProposal[]>(`/items/${item.id}/relays`)).filter(({ person }) => person === null);
    expect(all.every(({ planned }) => planned === null)).toBe(true);
    await release(item.id, way!, { path: way!.planned!.path });
    await eventually(() => modem.sent.length > 0);
    const frame = decodeFrame(modem.sent.at(-1)!);
    expect(frame.ok && frame.value.repeaters).toEqual([]);
    const { predictions } = await api.get<ItemDetail>(`/items/${item.id}`);
    const [expected] = Object.values(predictions);
    expect(expected!.proven.chance).toBeCloseTo(way!.planned!.proven!, 2);
    // What came in is not foretold.
    expect(Object.keys(predictions)).toHaveLength(1);
  });

  it('tells what can be done also when nothing can be foretold', async () => {
    await node.hear({ content: question });
    const item = await arrived('When do you run');
    const proposals = await proposeRelays(station.context.database, item.id, () =>
      Promise.reject(new Error('no plan')),
    );
    expect(proposals[0]).toMatchObject({ to: 'TELTXT', refused: null, planned: null });
  });

  it('takes no path that is none', async () => {
    await node.hear({ content: question });
    const item = await arrived('When do you run');
    const [way] = await api.get<RelayProposal[]>(`/items/${item.id}/relays`);
    expect(await release(item.id, way!, { path: ['no path'] })).toMatchObject({ status: 422 });
    expect(modem.sent).toHaveLength(0);
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
    expect(text).toMatchObject({ addressee: FARM_NODE, content: { text: 'Tomorrow 0700Z /005550142' } });
    await node.hear({ content: { kind: 'acknowledgement', of: text.number } });
    await itemWhen(
      api,
      answer.id,
      (candidate) => candidate.status.words === 'delivered: acknowledged in the name of LSFARM',
    );
  });

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

  const farmToFerry = (mostPerHour: number) =>
    api.post<StandingRule>('/rules', {
      id: randomUUID(),
      name: 'Farm to ferry',
      fromBearer: 'mesh',
      senders: ['LSFARM'],
      toBearer: RADIO,
      to: 'TELTXT',
      hours: { from: '00:00', until: '23:59' },
      mostPerHour,
    });

  it('relays by a standing rule only when it was turned on, within its rate', async () => {
    const rule = await farmToFerry(1);
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

  it('turns a rule off when what it does is changed, and keeps the rest of it', async () => {
    const rule = await farmToFerry(1);
    const change = (body: object) => api.patch<StandingRule>(`/rules/${rule.id}`, body);
    expect(await change({ enabled: true })).toMatchObject({ enabled: true, to: 'TELTXT' });
    expect(await change({ to: 'QT1NC', mostPerHour: 4 })).toEqual({ ...rule, to: 'QT1NC', mostPerHour: 4 });
    expect(await change({ mostPerHour: 0 })).toMatchObject({ status: 422 });
    expect(await change({ enabled: true })).toMatchObject({ enabled: true, to: 'QT1NC' });
  });

  it('keeps to the rate of a rule when two processes apply it at once', async () => {
    const rule = await farmToFerry(2);
    for (let n = 0; n < 5; n++)
      await node.hear({ content: { ...question, n: `0${n}`, text: `Ferry Office: Sheep no. ${n}?` } });
    await arrived('Sheep no. 4');
    await station.context.database.query('update standing_rule set enabled = true where id = $1', [rule.id]);
    const settings = await station.context.settings();
    const planning = () => planningOf(station.context);
    const apply = () => applyRules(station.context.database, settings, new Date(), planning, () => undefined);
    await Promise.all([apply(), apply(), apply()]);
    const [{ n }] = await station.context.database.query(
      `select count(*)::int as n from leg where detail->'relay'->>'rule' = $1`,
      [rule.id],
    );
    expect(n).toBe(2);
  });
});
