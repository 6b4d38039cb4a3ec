import type { ItemDetail } from '@tombolo/contract';
import { eachWithModem, eventually } from '../../testing/harness';
import { keepServices, PHONE } from '../../testing/services';

const at = eachWithModem();
let number = 0;
const say = (text: string, from = 'QT1NC') => at.modem.hear(`${from}>APZTOM::QT2AR-7  :${text}{${++number}`);
const arrived = (n: number) =>
  eventually(async () => {
    const { rows } = await at.api.get<{ rows: ItemDetail[] }>('/items');
    return rows.length === n && rows;
  });
/** Answers that went out by themselves, once all that waits is out. */
const told = async () => {
  await eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>(
      'select count(*)::int as n from leg where next_at is not null',
    );
    return row.n === 0;
  }, 60);
  return at.lines().filter((line) => line.includes(':Auto: '));
};
const allow = (autoAnswer: object | null) => at.api.patch('/settings', { autoAnswer });

describe('the automatic answer', () => {
  it('is off until somebody wishes it, goes once an hour to each, marked, and the text still needs somebody', async () => {
    say('Anybody there?');
    await arrived(1);
    expect(await told()).toEqual([]);
    await allow({ text: 'your text came', hours: null });
    say('Hello again');
    say('And again');
    say('Hello', 'QT6CL');
    const rows = await arrived(4);
    expect(rows.map(({ heap }) => heap)).toEqual(['needs you', 'needs you', 'needs you', 'needs you']);
    expect((await told()).sort()).toEqual([
      'QT2AR-7>APZTOM::QT1NC    :Auto: your text came',
      'QT2AR-7>APZTOM::QT6CL    :Auto: your text came',
    ]);
    at.aheadMs += 3_601_000;
    say('Later');
    await arrived(5);
    expect(await told()).toHaveLength(3);
    await allow(null);
    at.aheadMs += 3_601_000;
    say('Much later');
    await arrived(6);
    expect(await told()).toHaveLength(3);
  });

  it('goes to no automaton, service, question or further part, and does not talk with itself', async () => {
    await keepServices(at.api, PHONE);
    await allow({ text: 'your text came', hours: null });
    for (const text of ['AA: away', 'Auto: your text came', '(2/2a) rest of it']) say(text);
    say('Something', 'TELTXT');
    say('Something', 'SOUND');
    at.modem.hear('QT1NC>APZTOM::BLN1     :A bulletin');
    await arrived(6);
    expect(await told()).toEqual([]);
    // The first part is answered, and nothing of the same hour behind it.
    say('(1/2b) Of two');
    say('(2/2b) parts');
    await arrived(8);
    expect(await told()).toHaveLength(1);
  });

  it('keeps its hours, stops at twelve an hour, and is silent while we call for help', async () => {
    const hour = (plus: number) => new Date(at.clock() + plus * 3_600_000).toISOString().slice(11, 16);
    await allow({ text: 'asleep', hours: { from: hour(2), to: hour(4) } });
    say('Now?', 'QT3PC');
    await arrived(1);
    expect(await told()).toEqual([]);
    await allow({ text: 'asleep', hours: { from: hour(-1), to: hour(1) } });
    await at.api.patch('/settings', { automaticAirS: 300, automaticAirPerStationS: 300 });
    for (let n = 1; n <= 14; n++) say('Hello', `QT3PC-${n}`);
    await arrived(15);
    expect(await told()).toHaveLength(12);
    at.aheadMs += 3_601_000;
    await allow({ text: 'asleep', hours: null });
    await at.api.patch('/settings', { position: { latitude: 41.2, longitude: -43.2 } });
    await at.api.post('/emergency', { drill: true, words: '' });
    say('Are you well?');
    await arrived(16);
    expect(await told()).toHaveLength(12);
  }, 150_000);

  it('is refused when it could not be sent', async () => {
    for (const wrong of [
      { text: '', hours: null },
      { text: 'x'.repeat(62), hours: null },
      { text: 'a|b', hours: null },
      { text: 'x', hours: { from: '25:00', to: '06:00' } },
    ])
      expect(await allow(wrong)).toMatchObject({ status: 422 });
  });
});
