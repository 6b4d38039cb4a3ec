import type { ItemSummary } from '@tombolo/contract';
import { rowsOf } from '../store/database';
import { eachWithModem, eventually } from '../testing/harness';
import { textTo } from '../testing/written';

const at = eachWithModem();
const rows = async () => (await at.api.get<{ rows: ItemSummary[] }>('/items?direction=in&limit=500')).rows;
const heard = (n: number) =>
  eventually(async () => {
    const [row] = await rowsOf<{ n: number }>(at.station.context.database, 'select count(*)::int as n from reception');
    return row!.n >= n;
  }, 60);
const say = (from: string, text: string, n: number) =>
  at.modem.hear(`${from}>APRS::QT2AR-7  :${text}{${(n % 46656).toString(36)}`);

describe('the inbox', () => {
  it('costs one row for a thousand texts of one stranger, and a friend gets in all the same', async () => {
    // Somebody is known by having been written to.
    await at.api.post('/items', textTo('QT1NC', 'Hello', { askAcknowledgement: false }));
    for (let n = 0; n < 1000; n++) {
      say('QT9XX', `Noise ${n}`, n);
      if (n % 500 === 0) await new Promise((resolve) => setImmediate(resolve));
    }
    await heard(1000);
    say('QT1NC', 'Evacuate now', 1);
    await heard(1001);
    const all = await rows();
    const noise = all.filter(({ sender }) => sender === 'QT9XX');
    expect(noise).toHaveLength(21);
    const overflow = noise.find(({ body }) => body.includes('were not taken'))!;
    expect(overflow.body).toMatch(/^980 texts were not taken: there was no room\. The last: Noise \d+$/);
    expect(overflow.heap).toBe('needs you');
    expect(overflow.status.words).toContain('not taken: there was no room');
    expect(all.find(({ body }) => body === 'Evacuate now')).toMatchObject({
      heap: 'needs you',
      status: { words: expect.stringContaining('arrived') },
    });
  }, 90_000);

  it('keeps the room of strangers, of each of them, and of those who claim urgency apart', async () => {
    await at.api.patch('/settings', { storeLimit: 30 });
    let n = 0;
    for (let from = 0; from < 40; from++)
      say(`QT${from % 10}S${String.fromCharCode(65 + Math.floor(from / 10))}`, `Hello ${from}`, n++);
    await heard(n);
    for (let from = 0; from < 25; from++)
      say(`QT${from % 10}U${String.fromCharCode(65 + Math.floor(from / 10))}`, `EMERGENCY ${from}`, n++);
    await heard(n);
    const all = await rows();
    const taken = (start: string) =>
      all.filter(({ body, status }) => body.startsWith(start) && !status.words.startsWith('not taken')).length;
    expect(taken('Hello')).toBe(30);
    expect(taken('EMERGENCY')).toBe(20);
    // Each one that was not taken is shown, and the sender is told within the budget.
    expect(all.filter(({ status }) => status.words.startsWith('not taken'))).toHaveLength(15);
  }, 60_000);

  it('has a bound for somebody known too: any call can be borrowed', async () => {
    await at.api.post('/items', textTo('QT1NC', 'Hello', { askAcknowledgement: false }));
    for (let n = 0; n < 230; n++) say('QT1NC', `Text ${n}`, n);
    await heard(230);
    const all = (await rows()).filter(({ sender }) => sender === 'QT1NC');
    expect(all).toHaveLength(201);
  }, 60_000);

  it('holds bulletins of a stranger to the same', async () => {
    for (let n = 0; n < 60; n++) at.modem.hear(`QT9XX>APRS::BLN${n % 10}     :News ${n}`);
    await heard(60);
    const bulletins = (await rows()).filter(({ kind }) => kind === 'bulletin');
    expect(bulletins.filter(({ body }) => body.startsWith('News')).length).toBeLessThanOrEqual(30);
    expect(bulletins.some(({ body }) => body.includes('were not taken'))).toBe(true);
  }, 60_000);
});
