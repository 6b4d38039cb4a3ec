import { randomUUID } from 'node:crypto';
import {
  EQUIPMENT_FORMAT,
  ticksOf,
  type EquipmentFile,
  type KeptPieceView,
  type PieceChange,
  type Tick,
} from '@tombolo/contract';
import { apiOf, createDatabase, eventually, startTestStation, type Api } from '../testing/harness';

let database: Awaited<ReturnType<typeof createDatabase>>;
let station: Awaited<ReturnType<typeof startTestStation>>;
let api: Api;
beforeEach(async () => {
  database = await createDatabase();
  station = await startTestStation(database.url);
  api = apiOf(station);
});
afterEach(async () => {
  await station.stop();
  await database.drop();
});

const RADIO: PieceChange = {
  kind: 'radio',
  name: 'Hand-held',
  bandsMHz: [{ fromMHz: 144, toMHz: 148 }],
  powerW: 5,
  receivers: 2,
  modem: { receiver: 1, onAirBd: 1200, txDelayMs: 600, stopsWithWireless: true },
  positionFrom: 'own',
  scans: false,
};
const whip = (onId: string | null): PieceChange => ({
  kind: 'antenna',
  name: 'Whip',
  onId,
  bandsMHz: [],
  gainDbi: 0,
  heightM: 1.5,
});
const put = (body: object, id: string = randomUUID()) => api.put(`/equipment/${id}`, body) as Promise<KeptPieceView>;
const list = () => api.get<KeptPieceView[]>('/equipment');

describe('the list of equipment', () => {
  it('keeps pieces as they were described, in their order, and what belongs to what', async () => {
    const radio = await put(RADIO);
    const antenna = await put(whip(radio.id));
    expect(await list()).toEqual([{ id: radio.id, ...RADIO }, antenna]);
    await put({ ...RADIO, powerW: 1 }, radio.id);
    expect(await list()).toMatchObject([{ powerW: 1 }, { onId: radio.id }]);
    expect((await api.send(`/equipment/${radio.id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await api.send(`/equipment/${radio.id}`, { method: 'DELETE' })).status).toBe(404);
    expect(await list()).toEqual([{ ...antenna, onId: null }]);
  });

  it('refuses what cannot be, names the field, and changes nothing', async () => {
    for (const [wrong, field] of [
      [{ ...RADIO, powerW: 0 }, 'powerW'],
      [{ ...RADIO, bandsMHz: [{ fromMHz: 148, toMHz: 144 }] }, 'bandsMHz.0'],
      [{ ...RADIO, name: 'Hand\u0000held' }, 'name'],
      [{ ...RADIO, modem: { ...RADIO.modem, onAirBd: 1201 } }, 'modem.onAirBd'],
      [{ ...whip(null), gainDbi: 'much' }, 'gainDbi'],
      [{ kind: 'kite' }, 'kind'],
    ] as const)
      expect(await put(wrong)).toMatchObject({ status: 422, fields: { [field]: expect.any(String) } });
    expect(await put(whip(randomUUID()))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('not on the list'),
    });
    const antenna = await put(whip(null));
    expect(await put(whip(antenna.id))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('cannot belong'),
    });
    expect(await list()).toEqual([antenna]);
  });

  it('goes out as a file and comes back, for all that it holds or for none', async () => {
    const radio = await put(RADIO);
    await put(whip(radio.id));
    const file = await api.get<EquipmentFile>('/equipment/file');
    expect(file).toMatchObject({ format: EQUIPMENT_FORMAT, version: 1 });
    const other = await createDatabase();
    const elsewhere = await startTestStation(other.url);
    try {
      const there = apiOf(elsewhere);
      expect(await there.post('/equipment/file', file)).toEqual(file.pieces);
      // Read twice it is there once.
      expect(await there.post('/equipment/file', file)).toEqual(file.pieces);
      const broken = { ...file, pieces: [{ ...file.pieces[0], name: 'Changed' }, whip(randomUUID())] };
      expect(await there.post('/equipment/file', broken)).toMatchObject({ status: 422 });
      expect(await there.post('/equipment/file', { ...file, version: 2 })).toMatchObject({ status: 422 });
      expect(await there.post('/equipment/file', { ...file, pieces: [file.pieces[0], file.pieces[0]] })).toMatchObject({
        status: 422,
      });
      expect(await there.get('/equipment')).toEqual(file.pieces);
    } finally {
      await elsewhere.stop();
      await other.drop();
    }
  });

  it('publishes the schema of that file', async () => {
    const schema = await api.get<Record<string, unknown>>('/equipment/schema');
    expect(schema).toMatchObject({
      $schema: 'https://json-schema.org/draft/2020-12/schema',
      required: ['format', 'version', 'pieces'],
    });
    expect(JSON.stringify(schema)).toContain('"txDelayMs"');
  });

  it('tells the consoles', async () => {
    const { id } = await put(RADIO);
    await eventually(async () =>
      (await api.get<{ type: string; data: object }[]>('/events?after=0')).some(
        ({ type, data }) => type === 'equipment' && 'id' in data && data.id === id,
      ),
    );
  });
});

describe('a set-up sheet', () => {
  const tickOf = (more: Partial<Tick> = {}) => ({
    id: randomUUID(),
    holder: 'QT2AR-7',
    line: 'tx-delay',
    value: '600 ms',
    done: true,
    by: 'QT',
    ...more,
  });

  it('keeps who ticked what and when, also what was taken back, each press once', async () => {
    const { id } = await put(RADIO);
    const first = tickOf();
    await Promise.all([1, 2, 3].map(() => api.post(`/equipment/${id}/ticks`, first)));
    await api.post(`/equipment/${id}/ticks`, tickOf({ holder: 'Farm', by: 'OP' }));
    await api.post(`/equipment/${id}/ticks`, tickOf({ done: false, by: 'XY' }));
    const ticks = await api.get<Tick[]>(`/equipment/${id}/ticks`);
    expect(ticks.map(({ holder, done, by }) => [holder, done, by])).toEqual([
      ['QT2AR-7', true, 'QT'],
      ['Farm', true, 'OP'],
      ['QT2AR-7', false, 'XY'],
    ]);
    expect(ticksOf(ticks, 'QT2AR-7').get('tx-delay')).toMatchObject({ done: false, by: 'XY' });
    expect(Date.parse(ticks[0]!.at)).not.toBeNaN();
  });

  it('refuses a tick by nobody, one of a line that is none, and one of a piece that is gone', async () => {
    const { id } = await put(RADIO);
    for (const wrong of [{ by: ' ' }, { line: 'DROP TABLE' }, { holder: '' }])
      expect(await api.post(`/equipment/${id}/ticks`, tickOf(wrong))).toMatchObject({ status: 422 });
    expect(await api.post(`/equipment/${randomUUID()}/ticks`, tickOf())).toMatchObject({ status: 404 });
    expect(await api.get(`/equipment/${id}/ticks`)).toEqual([]);
  });
});
