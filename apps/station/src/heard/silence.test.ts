import { randomUUID } from 'node:crypto';
import type { Alarm, Watch } from '@tombolo/contract';
import { createDatabase, eventually, startModem, startWithModem, type FakeModem } from '../testing/harness';

let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Awaited<ReturnType<typeof startWithModem>>;
/** How far the clock of the station has been put forward, ms. */
let ahead = 0;
beforeAll(async () => {
  database = await createDatabase();
  modem = await startModem();
  station = await startWithModem(database.url, modem, {}, { now: () => Date.now() + ahead });
});
afterAll(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});

const MINUTE_MS = 60_000;
const watches = () => station.api.get<Watch[]>('/watches');
const alarms = () => station.api.get<Alarm[]>('/alarms');
let heard = 0;
/** A weather report; the gust is missing where none is given. */
async function hearWeather(gust: string): Promise<void> {
  heard++;
  modem.hear(`QT5WX-13>APRS:!4114.55N/04327.36W_220/004g${gust}t0${10 + heard}`);
  await eventually(async () => (await station.api.get('/stations/QT5WX-13')).packets === heard);
}

describe('a station that falls silent', () => {
  it('raises one alarm after the time, until the value itself comes again', async () => {
    await hearWeather('012');
    const watch = await station.api.post<Watch>('/watches', {
      id: randomUUID(),
      call: 'QT5WX-13',
      quantity: 'weather:gustMph',
      threshold: { when: 'silent for', limit: 30, withinHours: 1 },
    });
    expect(watch).toMatchObject({ raised: false, words: 'silent for 30 min' });

    ahead = 29 * MINUTE_MS;
    await hearWeather('...');
    expect(await alarms()).toEqual([]);

    // The gust has been missing for half an hour, though the station was heard in between.
    ahead = 31 * MINUTE_MS;
    await eventually(async () => (await alarms()).length > 0, 20);
    expect(await alarms()).toMatchObject([{ call: 'QT5WX-13', words: 'Gusts – silent for 30 min', seenAt: null }]);
    expect(await watches()).toMatchObject([{ raised: true }]);
    await hearWeather('...');
    expect(await watches()).toMatchObject([{ raised: true }]);

    await hearWeather('015');
    await eventually(async () => (await watches())[0]!.raised === false);
    expect(await alarms()).toHaveLength(1);

    ahead = 70 * MINUTE_MS;
    await eventually(async () => (await alarms()).length === 2, 20);
  }, 60_000);

  it('is watched for by minutes up to two days', async () => {
    for (const limit of [0, -5, 2881])
      expect(
        await station.api.post('/watches', {
          id: randomUUID(),
          call: 'QT5WX-13',
          quantity: 'weather:gustMph',
          threshold: { when: 'silent for', limit, withinHours: 1 },
        }),
      ).toMatchObject({ status: 422, detail: expect.stringContaining('minutes, from 1 to 2880') });
  });
});
