import type { ItemDetail, WaitingView } from '@tombolo/contract';
import type { Station } from '../station';
import {
  createDatabase,
  eventually,
  itemWhen,
  RADIO,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
} from '../testing/harness';
import { rowsOf } from '../store/database';
import { textTo } from '../testing/written';

let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Station & { api: Api };
/** By how much the station's clock is ahead of the machine's. */
let laterMs = 0;
beforeEach(async () => {
  laterMs = 0;
  database = await createDatabase();
  modem = await startModem();
  station = await startWithModem(database.url, modem, {}, { now: () => Date.now() + laterMs });
});
afterEach(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});
const waiting = () => station.api.get<WaitingView[]>('/waiting');
const lock = (antennaConfirmed: boolean) => station.api.patch('/settings', { antennaConfirmed });

describe('what waits behind a locked transmitter', () => {
  it('is told with its age and its air time before it is let go, and what is taken out never goes', async () => {
    const { api } = station;
    // Held, so that both are queued and nothing has gone yet; then locked, as after a change of the antenna.
    await api.put('/hold', { held: true });
    const stays = textTo('QT4LB-8', 'To be sent');
    const goes = textTo('QT6CL', 'Not any more');
    await api.post('/items', stays);
    await api.post('/items', goes);
    modem.hear('QT1NC>APRS::QT2AR-7  :Are you there?{7');
    await eventually(async () => (await waiting()).length === 3);
    await lock(false);
    await api.put('/hold', { held: false });
    const rows = await waiting();
    expect(rows.map(({ role, to, words, bearerId }) => [role, to, words, bearerId])).toEqual([
      ['convey', 'QT4LB-8', 'To be sent', RADIO],
      ['convey', 'QT6CL', 'Not any more', RADIO],
      ['acknowledge', 'QT1NC', 'acknowledges what came', RADIO],
    ]);
    for (const { airMs } of rows) expect(airMs).toBeGreaterThan(300);
    expect(modem.sent).toEqual([]);
    // Switched off, nothing would go by it.
    await api.patch(`/bearers/${RADIO}`, { enabled: false });
    expect(await waiting()).toEqual([]);
    await api.patch(`/bearers/${RADIO}`, { enabled: true });

    const dropped = rows.filter(({ words }) => words !== 'To be sent').map(({ id }) => id);
    expect(await api.post('/waiting/drop', { ids: dropped })).toEqual({ dropped: 2 });
    expect(await api.post('/waiting/drop', { ids: dropped })).toEqual({ dropped: 0 });
    await lock(true);
    await itemWhen(api, stays.id, ({ status }) => status.rung === 'sent');
    const cancelled = await api.get<ItemDetail>(`/items/${goes.id}`);
    expect(cancelled.status.outcome).toBe('cancelled');
    expect(cancelled.evidence.at(-1)).toMatchObject({
      kind: 'cancelled',
      note: 'taken out of the queue by the operator before the transmitter was unlocked',
    });
    const out = modem.sent.map((frame) => Buffer.from(frame).toString('latin1'));
    expect(out.some((text) => text.includes('To be sent'))).toBe(true);
    expect(out.some((text) => text.includes('Not any more') || text.includes('ack7'))).toBe(false);
  });

  it('claims nothing of an answer that was never sent, and lets one go that comes too late', async () => {
    const { api } = station;
    await lock(false);
    modem.hear('QT1NC>APRS::QT2AR-7  :Are you there?{7');
    await eventually(async () => (await waiting()).length === 1);
    const { rows } = await api.get<{ rows: ItemDetail[] }>('/items?direction=in');
    const item = await api.get<ItemDetail>(`/items/${rows[0]!.id}`);
    expect(item.evidence.map(({ kind }) => kind)).not.toContain('acknowledged');
    laterMs = 100_000;
    expect(await waiting()).toEqual([]);
    await lock(true);
    await eventually(async () =>
      (await rowsOf<{ kind: string }>(station.context.database, 'select kind from evidence')).some(
        ({ kind }) => kind === 'left out',
      ),
    );
    expect(modem.sent).toEqual([]);
  });
});
