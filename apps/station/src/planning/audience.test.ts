import type { AudienceView } from '@tombolo/contract';
import { eachWithModem, eventually, RADIO } from '../testing/harness';
import { listPerson } from '../testing/listed';

const at = eachWithModem();
const audience = () => at.api.get<AudienceView>(`/audience?bearerId=${RADIO}`);
const received = (n: number) =>
  eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= n;
  });
/** How many hear it over a path. */
const by = ({ paths }: AudienceView, path: string) => paths.find((one) => one.path.join() === path)!.expected;

describe('who would hear what goes to everybody', () => {
  it('is nobody that is known of, before anybody was heard', async () => {
    const view = await audience();
    expect(view).toMatchObject({ stations: 0, enough: null });
    expect(view.paths.map(({ expected }) => expected)).toEqual([0, 0, 0, 0, 0]);
  });

  it('grows with the repeats where somebody is heard over a digipeater, and no repeat is advised where all are heard straight', async () => {
    await listPerson(at.api, 'Clinic', { call: 'QT6CL' });
    for (let n = 0; n < 8; n++) at.modem.hear(`QT6CL>APZTMB:>Clinic ${n}`);
    await received(8);
    const straight = await audience();
    expect(straight.stations).toBe(1);
    expect(by(straight, '')).toBeGreaterThan(0.4);
    expect(straight.enough).toEqual([]);

    for (let n = 0; n < 8; n++) {
      at.modem.hear(`QT0TH-3>APZTMB:>Tarn Head ${n}`);
      for (const call of ['QT1NC', 'QT5WX-13', 'QT4LB-8', 'QT7SH-5'])
        at.modem.hear(`${call}>APZTMB,QT0TH-3*,WIDE2-1:>Far ${n}`);
    }
    await received(48);
    const over = await audience();
    // The digipeater itself reads nothing.
    expect(over.stations).toBe(5);
    expect(by(over, 'WIDE1-1')).toBeGreaterThan(by(over, '') + 0.5);
    expect(by(over, 'WIDE1-1,WIDE2-1')).toBeGreaterThanOrEqual(by(over, 'WIDE1-1') - 0.05);
    expect(over.enough).toEqual(['WIDE1-1']);
  });

  it('is asked of a bearer that there is', async () => {
    expect((await at.api.send('/audience')).status).toBe(422);
  });
});
