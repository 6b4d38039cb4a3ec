import type { RepeatingNow, TransmissionView } from '@tombolo/contract';
import { eachWithModem, eventually, RADIO } from '../testing/harness';

const at = eachWithModem();
const { lines } = at;
const turnOn = (more: object = {}) =>
  at.api.patch('/settings', { repeating: { bearerId: RADIO, holdBackS: 0, airS: 30, ...more } });
const state = () => at.api.get<RepeatingNow>('/repeating');
const heard = async (line: string) => {
  const before = (await at.api.get<{ rows: { id: string }[] }>('/packets')).rows.length;
  at.modem.hear(line);
  await eventually(async () => (await at.api.get<{ rows: { id: string }[] }>('/packets')).rows.length > before);
};
const PLACE = '=4112.45N/04325.41Wk';
const transmissions = async () => (await at.api.get<{ rows: TransmissionView[] }>('/transmissions')).rows;

describe('repeating for others', () => {
  it('is off until somebody turns it on', async () => {
    expect(await state()).toMatchObject({ repeating: null, stopped: null });
    await heard(`QT3TK-14>APZTOM,WIDE1-1,WIDE2-1:${PLACE}`);
    expect(await transmissions()).toEqual([]);
  });

  it('passes on what is for a fill-in, as it was but for its path, once, and lists it', async () => {
    await turnOn();
    at.modem.hear(`QT3TK-14>APZTOM-3,WIDE1-1,WIDE2-1:${PLACE}`);
    await eventually(() => at.modem.sent.length === 1);
    expect(lines()).toEqual([`QT3TK-14>APZTOM-3,QT2AR-7*,WIDE2-1:${PLACE}`]);
    // A copy, one that is not for us, one that we sent: left alone.
    at.modem.hear(`QT3TK-14>APZTOM-3,WIDE1-1,WIDE2-1:${PLACE}`);
    await heard(`QT4LB-8>APZTOM,WIDE2-2:${PLACE}`);
    await heard('QT4LB-8>APZTOM,WIDE1-1:>one more');
    await eventually(() => at.modem.sent.length === 2);
    expect(lines()[1]).toBe('QT4LB-8>APZTOM,QT2AR-7*:>one more');
    await eventually(async () => (await state()).repeatedLastHour === 2);
    const notes = (await transmissions()).map(({ evidence }) => evidence[0]!.note);
    expect(notes).toEqual(['repeated for QT4LB-8, as a fill-in', 'repeated for QT3TK-14, as a fill-in']);
  });

  it('leaves what it holds back to whoever repeats it first', async () => {
    await turnOn({ holdBackS: 5 });
    at.modem.hear(`QT3TK-14>APZTOM,WIDE1-1,WIDE2-1:${PLACE}`);
    await eventually(async () => (await transmissions()).length === 1);
    at.modem.hear(`QT3TK-14>APZTOM,QT0BR-1*,WIDE2-1:${PLACE}`);
    await eventually(async () => (await state()).leftLastHour === 1);
    expect((await transmissions())[0]!.evidence.at(-1)!.note).toBe('QT0BR-1 repeated it first');
    // Nobody does it for this one: it goes out when its time has come.
    at.modem.hear('QT4LB-8>APZTOM,WIDE1-1:>alone');
    await eventually(() => at.modem.sent.length === 1, 15);
    expect(lines()).toEqual(['QT4LB-8>APZTOM,QT2AR-7*:>alone']);
  });

  it('keeps to its air time whatever comes, and to the questions', async () => {
    await turnOn({ airS: 5 });
    for (let n = 0; n < 40; n++) at.modem.hear(`QT${n % 10}AB-${n % 15}>APZTOM,WIDE1-1:>flood ${n} ${'x'.repeat(40)}`);
    await eventually(async () => (await at.api.get<{ rows: object[] }>('/packets')).rows.length === 40, 20);
    await eventually(() => at.modem.sent.length >= 4);
    // Whoever waits for a repeat gives up after ten seconds: the rest is left out then, and holds no room for what comes later.
    at.aheadMs += 11_000;
    const all = await eventually(async () => {
      const rows = await transmissions();
      return rows.every(({ evidence }) => evidence.length > 1) && rows;
    });
    // Five seconds bear five or six of these at 1200 Bd.
    expect(at.modem.sent.length).toBeLessThanOrEqual(7);
    expect(all.length).toBeLessThanOrEqual(27);
    const leftOut = all.flatMap(({ evidence }) => evidence.filter(({ kind }) => kind === 'left out'));
    expect(leftOut).toHaveLength(all.length - at.modem.sent.length);
    for (const { note } of leftOut) expect(note).toMatch(/was not repeated: it could not go out within 10 s/);
    expect(leftOut.length).toBeGreaterThan(10);
    const before = at.modem.sent.length;
    await at.api.patch('/settings', { antennaConfirmed: false });
    expect((await state()).stopped).toContain('antenna');
    await heard('QT3TK-14>APZTOM,WIDE1-1:>locked');
    expect(at.modem.sent).toHaveLength(before);
    expect((await transmissions()).some(({ evidence }) => evidence[0]!.note?.includes('QT3TK-14'))).toBe(false);
  });

  it('says whether it would help anybody', async () => {
    for (const call of ['QT3TK-14', 'QT4LB-8', 'QT7SH-5']) await heard(`${call}>APZTOM,WIDE1-1:>here ${call}`);
    expect((await state()).advice).toMatchObject({ verdict: 'helps', unheard: ['QT3TK-14', 'QT4LB-8', 'QT7SH-5'] });
    for (const call of ['QT3TK-14', 'QT4LB-8', 'QT7SH-5']) at.modem.hear(`${call}>APZTOM,QT0BR-1*:>here ${call}`);
    await eventually(async () => (await state()).advice.verdict === 'loads');
  });
});
