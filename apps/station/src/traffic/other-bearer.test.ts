import type { ItemDetail, ItemSummary } from '@tombolo/contract';
import { insertBearer } from '../http/routes/bearers';
import { planningOf } from '../planning/of-station';
import { eachWithModem, eventually, itemWhen } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { meshConfig, startMeshNode, type MeshNodeUnderTest } from '../testing/mesh-node';
import { meshText, textTo } from '../testing/written';
import { otherBearerTurn } from './other-bearer';

const OWN = '01D1-0002';
const CLINIC = '01D1-0006';
const ANNOUNCED = {
  kind: 'announcement' as const,
  tag: 'VLCLIN',
  name: 'Clinic',
  carrier: false,
  position: null,
  batteryPercent: null,
};
// Twice soon, and then with more and more room between: what is on its way to the air is left alone.
const at = eachWithModem({ retry: { firstS: 1, factor: 4, capS: 60, tries: 20, jitter: 0 } });
let node: MeshNodeUnderTest;
beforeEach(async () => {
  node = await startMeshNode(OWN, CLINIC, 'Sound');
  await insertBearer(at.station.context, 'mesh', 'Mesh', meshConfig(node.port, OWN));
  await at.station.context.bearersChanged();
  await eventually(async () =>
    (await at.api.get<{ id: string; state: { link: string } }[]>('/bearers')).some(
      ({ id, state }) => id === 'mesh' && state.link === 'up',
    ),
  );
  await listPerson(at.api, 'Clinic', { call: 'QT6CL', node: 'VLCLIN' });
});
afterEach(() => node.stop());

/** The clinic's node is heard, near and often. */
async function clinicIsHeard(): Promise<void> {
  for (let n = 0; n < 3; n++) await node.hear({ hops: 0, content: ANNOUNCED, at: new Date(at.clock()).toISOString() });
  await eventually(async () => {
    const rows = await at.station.context.database.query(`select 1 from mesh_node where tag = 'VLCLIN'`);
    return rows.length === 1;
  });
}
/** The rule's turn, so many minutes from the beginning: the clock of the station is put on. */
const turn = (minutes: number) => {
  at.aheadMs = minutes * 60_000;
  const { database, settings } = at.station.context;
  return otherBearerTurn({
    database,
    settings,
    planning: () => planningOf(at.station.context),
    wakeOutbox: () => undefined,
    now: at.clock,
  });
};
const toTheClinic = async (body = 'Two hurt at the pier', more: object = {}) => {
  const { id } = await at.api.post<{ id: string }>('/items', { ...textTo('QT6CL', body, { path: [] }), ...more });
  await itemWhen(at.api, id, ({ legs }) => legs.some(({ triesMade }) => triesMade >= 2));
  return id;
};
/** Until it has had its effect: what is on its way to the air just then has its turn the next time. */
const turnsUntilWritten = (minutes: number) =>
  eventually(async () => {
    await Promise.all([turn(minutes), turn(minutes), turn(minutes)]);
    return (await byRule())[0];
  });
const sentOut = async () => (await at.api.get<{ rows: ItemSummary[] }>('/items?direction=out')).rows;
const byRule = async () => (await sentOut()).filter(({ addressee }) => addressee === 'VLCLIN');

describe('a text that nobody answers', () => {
  it('is written again for a surer bearer to the same person, once, and the first is no longer tried', async () => {
    await clinicIsHeard();
    await at.api.patch('/settings', { otherBearerMin: 5 });
    const id = await toTheClinic();
    // Not before its time.
    await turn(1);
    expect(await sentOut()).toHaveLength(1);
    const again = await turnsUntilWritten(6);
    expect(await byRule()).toHaveLength(1);
    expect(again).toMatchObject({ addressee: 'VLCLIN', body: 'Two hurt at the pier' });
    const first = await at.api.get<ItemDetail>(`/items/${id}`);
    expect(first.status.words).toBe('sent, nothing heard yet; then cancelled');
    expect(first.evidence.at(-1)).toMatchObject({
      kind: 'cancelled',
      by: 'QT2AR-7',
      note: expect.stringMatching(/^by your rule: it goes on by another bearer, .*VLCLIN.*; both may arrive$/),
    });
    const second = await at.api.get<ItemDetail>(`/items/${again.id}`);
    expect(second.evidence.find(({ kind }) => kind === 'queued')!.note).toMatch(
      /^to node VLCLIN, channel Sound, by your rule: 5 minutes without an answer to QT6CL, where it is no longer tried; both may arrive$/,
    );
    expect(Object.keys(second.predictions)).toHaveLength(1);
    const waiting = await at.station.context.database.query(
      'select item_id from leg where next_at is not null and item_id = any($1::uuid[])',
      [[id, again.id]],
    );
    expect(waiting).toEqual([{ item_id: again.id }]);
    // It really goes out, and what is silent there too waits for the operator.
    at.station.context.wakeOutbox();
    await eventually(() => node.sent.some(({ content }) => content?.kind === 'text'));
    await turn(60);
    expect(await sentOut()).toHaveLength(2);
  }, 60_000);

  it('stays alone where nobody said so, the transmitter is locked, all is held, or it was cancelled', async () => {
    await clinicIsHeard();
    const id = await toTheClinic();
    await turn(10);
    await at.api.put('/hold', { held: true });
    await at.api.patch('/settings', { otherBearerMin: 1 });
    await turn(20);
    await at.api.patch('/settings', { antennaConfirmed: false });
    await at.api.put('/hold', { held: false });
    await turn(30);
    await at.api.post(`/items/${id}/actions`, { action: 'cancel' });
    await at.api.patch('/settings', { antennaConfirmed: true });
    await turn(40);
    expect(await sentOut()).toHaveLength(1);
  }, 60_000);

  it('stays alone where nobody is known behind the call, no other bearer is surer, or its deadline is near', async () => {
    await at.api.patch('/settings', { otherBearerMin: 1 });
    // Of the clinic's node nothing was heard.
    await toTheClinic();
    await turn(60);
    expect(await byRule()).toEqual([]);
    await clinicIsHeard();
    const stranger = await at.api.post<{ id: string }>('/items', textTo('QT9ZZ', 'Anybody?', { path: [] }));
    await itemWhen(at.api, stranger.id, ({ legs }) => legs.some(({ triesMade }) => triesMade >= 2));
    const late = await toTheClinic('Until then', { deadline: new Date(at.clock() + 5 * 60_000).toISOString() });
    await turnsUntilWritten(64.5);
    await turn(64.6);
    const again = await byRule();
    expect(again.map(({ body }) => body)).toEqual(['Two hurt at the pier']);
    expect((await at.api.get<ItemDetail>(`/items/${late}`)).legs).toHaveLength(1);
  }, 60_000);

  it('stays alone where the same was written to the same person again by hand', async () => {
    await clinicIsHeard();
    await toTheClinic();
    const again = meshText(CLINIC, 'Two hurt at the pier');
    await at.api.post('/items', again);
    await at.api.patch('/settings', { otherBearerMin: 1 });
    for (let minutes = 10; minutes < 14; minutes++) await turn(minutes);
    expect((await byRule()).map(({ id }) => id)).toEqual([again.id]);
  }, 60_000);

  it('is no longer tried by the other bearer once the first is answered after all', async () => {
    await clinicIsHeard();
    await at.api.patch('/settings', { otherBearerMin: 5 });
    node.silence();
    const id = await toTheClinic();
    const again = await turnsUntilWritten(6);
    const { legs } = await at.api.get<ItemDetail>(`/items/${id}`);
    const number = /\{(\w+)/.exec(at.lines().find((line) => line.includes('Two hurt'))!)![1];
    at.modem.hear(`QT6CL>APZTMB::${legs[0]!.from.padEnd(9)}:ack${number}`);
    await itemWhen(at.api, id, ({ status }) => status.rung === 'delivered');
    const second = await eventually(async () => {
      await turn(7);
      const item = await at.api.get<ItemDetail>(`/items/${again.id}`);
      return item.evidence.some(({ kind }) => kind === 'cancelled') && item;
    });
    expect(second.evidence.at(-1)!.note).toBe('the first, by another bearer, was answered after all');
    const waiting = await at.station.context.database.query(
      'select 1 from leg where item_id = $1 and next_at is not null',
      [again.id],
    );
    expect(waiting).toEqual([]);
  }, 60_000);

  it('is not written twice by turns at once, and not for a part of a longer text', async () => {
    await clinicIsHeard();
    await at.api.patch('/settings', { otherBearerMin: 1 });
    await toTheClinic();
    await toTheClinic('(1/2a) The first part');
    await turnsUntilWritten(60);
    await turn(61);
    expect(await byRule()).toHaveLength(1);
  }, 60_000);

  it('stays as it was when it does not fit the other bearer after all', async () => {
    await clinicIsHeard();
    await at.api.patch('/settings', { otherBearerMin: 1 });
    const id = await toTheClinic();
    const { database, settings } = at.station.context;
    await otherBearerTurn({
      database,
      settings,
      planning: async () => {
        const planning = await planningOf(at.station.context);
        // The channel goes between the proposal and the writing.
        await database.query(
          `update bearer set config = jsonb_set(config, '{channels,0,name}', '"Gone"') where id = 'mesh'`,
        );
        return planning;
      },
      wakeOutbox: () => undefined,
      now: () => Date.now() + 3600_000,
    });
    const { status, legs, evidence } = await at.api.get<ItemDetail>(`/items/${id}`);
    expect({ outcome: status.outcome, legs: legs.length }).toEqual({ outcome: null, legs: 1 });
    expect(evidence.some(({ kind }) => kind === 'cancelled')).toBe(false);
    expect(await sentOut()).toHaveLength(1);
  }, 60_000);
});
