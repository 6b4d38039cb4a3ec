import type { ItemDetail } from '@tombolo/contract';
import { planningOf } from '../planning/of-station';
import { eachWithModem, eventually, itemWhen } from '../testing/harness';
import { textTo } from '../testing/written';
import { otherPathTurn } from './other-path';

const at = eachWithModem({ retry: { firstS: 1, factor: 1, capS: 1, tries: 20, jitter: 0 } });

/** The rule's turn, so many minutes from now. */
const turn = (minutes: number) => {
  const { database, settings } = at.station.context;
  return otherPathTurn({
    database,
    settings,
    planning: () => planningOf(at.station.context),
    wakeOutbox: () => undefined,
    now: () => Date.now() + minutes * 60_000,
  });
};
/** QT4LB-8 is far, and heard over the digipeater alone. */
const farAway = async () => {
  for (let n = 0; n < 6; n++) {
    at.modem.hear(`QT0BR-1>APZTMB:>Here ${n}`);
    at.modem.hear(`QT4LB-8>APZTMB,QT0BR-1*:>Under way ${n}`);
  }
  await eventually(async () => {
    const [row] = await at.station.context.database.query('select count(*)::int as n from reception');
    return row.n >= 12;
  });
};
const twice = (id: string) => itemWhen(at.api, id, ({ legs }) => legs.some(({ triesMade }) => triesMade >= 2));
const legsOf = async (id: string) => (await at.api.get<ItemDetail>(`/items/${id}`)).legs;

describe('a text that nobody answers', () => {
  it('goes on by a surer path by itself, once, under its number, and the first is no longer tried', async () => {
    await farAway();
    await at.api.patch('/settings', { otherPathMin: 5 });
    const { id } = await at.api.post<{ id: string }>('/items', textTo('QT4LB-8', 'Where are you?', { path: [] }));
    await twice(id);
    // Not before its time.
    await turn(1);
    expect(await legsOf(id)).toHaveLength(1);
    await turn(6);
    const legs = await legsOf(id);
    expect(legs).toHaveLength(2);
    // Of several that come to the same over the one digipeater the shortest.
    expect(legs[1]!.path).toEqual(['WIDE1-1']);
    const item = await at.api.get<ItemDetail>(`/items/${id}`);
    expect(item.evidence.at(-1)).toMatchObject({
      kind: 'queued',
      note: expect.stringMatching(
        /^path WIDE1-1, by your rule: 5 minutes without an answer by no digipeater, which is no longer tried; should both arrive/,
      ),
    });
    expect(Object.keys(item.predictions)).toHaveLength(2);
    const waiting = await at.station.context.database.query(
      `select path from leg where item_id = $1 and next_at is not null`,
      [id],
    );
    expect(waiting).toEqual([{ path: legs[1]!.path }]);
    // Once: what is silent by that path too waits for the operator.
    await turn(60);
    expect(await legsOf(id)).toHaveLength(2);
  }, 60_000);

  it('stays as it is where nobody said so, the transmitter is locked, all is held, or no path is surer', async () => {
    await farAway();
    const { id } = await at.api.post<{ id: string }>('/items', textTo('QT4LB-8', 'Where are you?', { path: [] }));
    await twice(id);
    await turn(60);
    expect(await legsOf(id)).toHaveLength(1);
    await at.api.patch('/settings', { otherPathMin: 1 });
    await at.api.put('/hold', { held: true });
    await turn(60);
    expect(await legsOf(id)).toHaveLength(1);
    await at.api.put('/hold', { held: false });
    await at.api.patch('/settings', { antennaConfirmed: false });
    await turn(60);
    expect(await legsOf(id)).toHaveLength(1);
    await at.api.patch('/settings', { antennaConfirmed: true });
    // Of somebody of whom nothing is known no path is surer than another.
    const { id: unknown } = await at.api.post<{ id: string }>('/items', textTo('QT9ZZ', 'Anybody?'));
    await twice(unknown);
    await turn(60);
    expect(await legsOf(unknown)).toHaveLength(1);
  }, 60_000);

  it('is not queued twice by two turns at once, and not after it was cancelled', async () => {
    await farAway();
    await at.api.patch('/settings', { otherPathMin: 1 });
    const one = await at.api.post<{ id: string }>('/items', textTo('QT4LB-8', 'One', { path: [] }));
    await twice(one.id);
    await Promise.all([turn(60), turn(60), turn(60)]);
    expect(await legsOf(one.id)).toHaveLength(2);
    const two = await at.api.post<{ id: string }>('/items', textTo('QT4LB-8', 'Two', { path: [] }));
    await twice(two.id);
    await at.api.post(`/items/${two.id}/actions`, { action: 'cancel' });
    await turn(60);
    expect(await legsOf(two.id)).toHaveLength(1);
  }, 60_000);
});
