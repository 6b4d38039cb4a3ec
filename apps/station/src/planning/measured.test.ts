import type { MeasuredView } from '@tombolo/contract';
import { eachWithModem, eventually } from '../testing/harness';

const at = eachWithModem();
const measured = () => at.api.get<MeasuredView>('/reach/measured');
let packets = 0;
const hear = async (...lines: string[]) => {
  packets += lines.length;
  for (const line of lines) at.modem.hear(line);
  await eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= packets;
  });
};
beforeEach(() => (packets = 0));

describe('what was heard here against what was reckoned', () => {
  it('is nothing while it is not known where we are', async () => {
    await at.api.patch('/settings', { position: null });
    await hear('QT1NC>APZTMB:!4112.42N/04325.26W-Net control');
    expect(await measured()).toEqual({ placed: false, stations: [], factor: null });
  });

  it('counts what was heard straight and what was missed, of those that stay and say where', async () => {
    await at.api.patch('/settings', { position: { latitude: 41.207, longitude: -43.421 } });
    await hear(
      'QT0TH-3>APZTMB:!4114.55N/04327.36W#Tarn Head',
      'QT1NC>APZTMB,WIDE1-1:!4118.42N/04325.26W-Net control',
      'QT1NC>APZTMB,WIDE1-1:>one',
      // Repeated before it itself, or without it: it was there to be heard, and was not.
      'QT6CL>APZTMB,QT0TH-3*:!4113.00N/04340.00W-Clinic',
      'QT6CL>APZTMB,QT0TH-3*:>two',
      // One that moves, and one that never says where it is.
      'QT3TK-14>APZTMB:!4112.00N/04326.00W>090/036Truck',
      'QT9XX>APZTMB:>nowhere',
    );
    const { placed, stations, factor } = await measured();
    expect(placed).toBe(true);
    expect(stations.map(({ call, heard, missed }) => [call, heard, missed])).toEqual([
      // Its own packet, and two that it repeated.
      ['QT0TH-3', 3, 0],
      ['QT1NC', 2, 0],
      ['QT6CL', 0, 2],
    ]);
    const km = stations.map(({ distanceKm }) => distanceKm);
    expect(km).toEqual([...km].sort((a, b) => a - b));
    for (const { marginDb } of stations) expect(Number.isFinite(marginDb)).toBe(true);
    expect(factor!.lowDb).toBeLessThan(factor!.db);
    expect(factor!.db).toBeLessThan(factor!.highDb);
  });
});
