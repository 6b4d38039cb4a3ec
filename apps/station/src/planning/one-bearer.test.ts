import type { BearerView } from '@tombolo/contract';
import { eachWithModem, eventually, RADIO } from '../testing/harness';
import { planningOf } from './of-station';
import { plannedCrossing } from './one-bearer';

const at = eachWithModem();

const receptions = (n: number) =>
  eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= n;
  });
const crossing = async (address: string) =>
  plannedCrossing(await planningOf(at.station.context), { bearerId: RADIO, address, text: 'Hello', times: 4 });
const usual = async (path: readonly string[]) => {
  const [bearer] = await at.api.get<BearerView[]>('/bearers');
  await at.api.patch(`/bearers/${RADIO}`, { config: { ...bearer!.config, path } });
};

describe('the path of a text that goes without anybody choosing it', () => {
  it('is the one that the operator set, while none has shown that it works', async () => {
    // A high digipeater that is heard well need not hear a hand-held.
    for (let n = 0; n < 6; n++) {
      at.modem.hear(`QT0TH-3>APZTMB:>high ${n}`);
      at.modem.hear(`QT6CL>APZTMB,QT0TH-3*,WIDE2-1:>over it ${n}`);
    }
    await receptions(12);
    for (const path of [['WIDE1-1', 'WIDE2-1'], ['WIDE1-1'], ['WIDE2-2']]) {
      await usual(path);
      expect((await crossing('QT6CL'))!.path).toEqual(path);
    }
    // One of their own making is not reckoned: the surest is told.
    await usual(['QT0TH-3']);
    expect(await crossing('QT6CL')).not.toBeNull();
  });

  it('is none to somebody who was heard straight', async () => {
    await usual(['WIDE1-1', 'WIDE2-1']);
    for (let n = 0; n < 6; n++) at.modem.hear(`QT6CL>APZTMB,WIDE1-1:>straight ${n}`);
    await receptions(6);
    expect((await crossing('QT6CL'))!.path).toEqual([]);
  });
});
