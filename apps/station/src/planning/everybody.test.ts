import { BOARD_PROFILES } from '@tombolo/core';
import { INTERNET, type BearerView, type EverybodyView, type Person } from '@tombolo/contract';
import { eachWithModem, eventually } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { keepServices, PHONE } from '../testing/services';

const at = eachWithModem();
const asked = (off: string) => `/ways/everybody?off=${encodeURIComponent(off)}`;
const without = (...off: string[]) => at.api.get<EverybodyView>(asked(off.join()));
const named = ({ people }: EverybodyView, name: string) => people.find((one) => one.name === name)!;
const neededBy = ({ relies }: EverybodyView, id: string) => relies.find((one) => one.id === id)?.needed;

/** The clinic is far off and heard over the high digipeater alone, the gateway straight; the ferry office has a phone. */
async function district() {
  await at.api.patch('/settings', { position: { latitude: 41.269, longitude: -43.285 } });
  await keepServices(at.api, { ...PHONE, reached: 'QT1GW-10' });
  await listPerson(at.api, 'Clinic', { call: 'QT6CL' });
  await listPerson(at.api, 'Ferry Office', { phone: '+00 555 0142' });
  for (let n = 0; n < 6; n++) {
    at.modem.hear(`QT6CL>APZTMB,QT0TH-3*,WIDE2-1:!4010.00N/04330.00W-Far off ${n}`);
    at.modem.hear(`QT0TH-3>APZTMB:!4114.55N/04327.36W#Tarn Head ${n}`);
    at.modem.hear(`QT1GW-10>APZTMB:!4112.42N/04325.26W&Gateway ${n}`);
  }
  await eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= 18;
  });
}

describe('the ways to everybody', () => {
  it('tell of nobody, and of somebody whom nothing reaches', async () => {
    expect(await without()).toMatchObject({ people: [], of: 0, relies: [] });
    await listPerson(at.api, 'Mail alone', { mail: 'somebody@else.example' });
    expect((await without()).people).toEqual([
      {
        id: expect.any(String),
        name: 'Mail alone',
        surest: null,
        by: [],
        why: 'Nothing of yours reaches what is noted of Mail alone: somebody@else.example.',
      },
    ]);
  });

  it('name what each of them hangs on', async () => {
    await district();
    const view = await without();
    expect(view.people.map(({ name, by }) => [name, by])).toEqual([
      ['Clinic', ['Radio']],
      ['Ferry Office', ['TELTXT']],
    ]);
    expect(named(view, 'Clinic').surest).toMatchObject({
      title: expect.stringContaining('Packet radio to QT6CL'),
      basis: 'evidence',
    });
    expect(neededBy(view, 'radio')).toEqual(['Clinic', 'Ferry Office']);
    expect(view.relies.find(({ id }) => id === 'radio')).toMatchObject({ what: 'bearer', label: 'Radio' });
    expect(neededBy(view, 'QT0TH-3')).toEqual(['Clinic']);
    for (const id of [INTERNET, 'TELTXT', 'QT1GW-10']) expect(neededBy(view, id)).toEqual(['Ferry Office']);
    expect(view.relies.find(({ id }) => id === 'TELTXT')).toMatchObject({ what: 'service' });
    expect(view.relies.find(({ id }) => id === 'QT1GW-10')).toMatchObject({ what: 'station' });
    // Whose own set is off is reached by nobody: that is no news.
    expect(view.relies.map(({ id }) => id)).not.toContain('QT6CL');
    expect(view.relies.find(({ id }) => id === 'QT0TH-3')).toMatchObject({ what: 'station', label: 'QT0TH-3' });
  });

  it('are fewer with something off, and the same again without', async () => {
    await district();
    const asItIs = await without();
    const sure = (view: EverybodyView) => named(view, 'Clinic').surest!.chance;
    const noTarnHead = await without('QT0TH-3');
    expect(named(noTarnHead, 'Clinic')).toMatchObject({ by: [], surest: null });
    expect(named(noTarnHead, 'Ferry Office').by).toEqual(['TELTXT']);
    for (const off of [INTERNET, 'TELTXT', 'QT1GW-10']) {
      const view = await without(off);
      expect(named(view, 'Ferry Office')).toMatchObject({ surest: null });
      expect(sure(view)).toBeCloseTo(sure(asItIs), 3);
    }
    const nothing = await without('radio');
    expect(nothing.people.map(({ surest, why }) => [surest, why])).toEqual([
      [null, 'It relies on what is thought off.'],
      [null, 'It relies on what is thought off.'],
    ]);
    // Nobody knows that one, and nothing was kept of all that was thought.
    expect(sure(await without('QT9ZZ'))).toBeCloseTo(sure(asItIs), 3);
    expect((await without()).relies).toEqual(asItIs.relies);
  });

  it('hang on nothing alone where a board takes it too, and the board on the modem', async () => {
    await district();
    const { id } = await at.api.post<BearerView>('/bearers', {
      name: 'Board Hollinport',
      enabled: true,
      config: { kind: 'board', over: 'radio', call: 'QT1BB-4', profile: BOARD_PROFILES[0] },
    });
    await listPerson(at.api, 'Ferry by board', { phone: '+00 555 0143', board: 'FERRY@QT6BB-4' });
    const view = await without();
    for (const thing of [INTERNET, 'TELTXT', 'QT1GW-10', id, 'QT1BB-4', 'QT6BB-4'])
      expect(neededBy(view, thing)).not.toContain('Ferry by board');
    expect(neededBy(view, 'radio')).toContain('Ferry by board');
    // With the internet off it hangs on the board, on both ends of its forwarding.
    const byBoard = await without(INTERNET);
    expect(named(byBoard, 'Ferry by board').surest!.title).toContain('QT1BB-4');
    for (const thing of [id, 'QT1BB-4', 'QT6BB-4', 'radio'])
      expect(neededBy(byBoard, thing)).toContain('Ferry by board');
    for (const thing of [id, 'QT1BB-4', 'QT6BB-4'])
      expect(named(await without(INTERNET, thing), 'Ferry by board').surest).toBeNull();
  });

  it('hang on a gateway also where it repeats for others', async () => {
    await district();
    // Heard over the gateway, which is by hearsay a digipeater too.
    for (let n = 0; n < 6; n++)
      at.modem.hear(`QT8PH>APZTMB,QT1GW-10*,WIDE2-1:!4010.00N/04331.00W-Over the gateway ${n}`);
    await listPerson(at.api, 'Behind it twice', { call: 'QT8PH', phone: '+00 555 0144' });
    await eventually(async () => {
      const view = await without();
      return named(view, 'Behind it twice').by.length === 2 && neededBy(view, 'QT1GW-10')!.includes('Behind it twice');
    });
    expect(named(await without('QT1GW-10'), 'Behind it twice').surest).toBeNull();
  });

  it('lead over the hand of somebody, and hang on what reaches them', async () => {
    await district();
    const clinic = (await at.api.get<Person[]>('/people')).find(({ name }) => name === 'Clinic')!;
    const { id, ...away } = await listPerson(at.api, 'By hand alone', { mail: 'away@else.example' });
    await at.api.put(`/people/${id}`, { ...away, broughtBy: [{ person: clinic.id, aboutMin: 30 }] });
    const view = await without();
    expect(named(view, 'By hand alone')).toMatchObject({ by: ['Clinic'], surest: { basis: 'evidence' } });
    for (const thing of ['QT0TH-3', 'QT6CL']) expect(neededBy(view, thing)).toContain('By hand alone');
    expect(named(await without('QT6CL'), 'By hand alone').surest).toBeNull();
  });

  it('are told of some at a time, in the order of the list', async () => {
    for (let n = 0; n < 12; n++) await listPerson(at.api, `Person ${n}`, { mail: `p${n}@else.example` });
    const names = async (from: number) => {
      const { people, of } = await at.api.get<EverybodyView>(`/ways/everybody?from=${from}`);
      expect(of).toBe(12);
      return people.map(({ name }) => name);
    };
    expect(await names(0)).toEqual(Array.from({ length: 10 }, (_, n) => `Person ${n}`));
    expect(await names(10)).toEqual(['Person 10', 'Person 11']);
    expect(await names(12)).toEqual([]);
  });

  it('are not asked for with more than is thought of', async () => {
    const many = (count: number) => Array.from({ length: count }, (_, n) => `QT${n}`).join();
    for (const off of [many(21), ',', 'QT1NC,', 'x'.repeat(65)])
      expect(await at.api.get(asked(off))).toMatchObject({ status: 422 });
    for (const from of ['-1', '1.5', '501', 'x'])
      expect(await at.api.get(`/ways/everybody?from=${from}`)).toMatchObject({ status: 422 });
    expect((await at.api.get<EverybodyView>(asked(many(20)))).people).toEqual([]);
  });
});
