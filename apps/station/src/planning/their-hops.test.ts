import { eachWithModem, eventually } from '../testing/harness';
import { theirHops } from './their-hops';

const at = eachWithModem();
const received = (n: number) =>
  eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= n;
  });
const hops = (call: string, aheadMs = 0) =>
  theirHops(at.station.context.database, call, at.station.context.now() + aheadMs);

describe('over how many digipeaters somebody answers', () => {
  it('is what their last text or acknowledgement asked for, else their last packet, as a modem heard it', async () => {
    expect(await hops('QT6CL')).toBeNull();
    at.modem.hear('QT6CL>APZTMB,QT0TH-3*,WIDE2-1:>On the air');
    await received(1);
    expect(await hops('QT6CL')).toBe(2);
    at.modem.hear('QT6CL>APZTMB,QT0BR-1*::QT1NC    :Here{1');
    at.modem.hear('QT6CL>APZTMB:>Still on the air');
    await received(3);
    expect(await hops('QT6CL')).toBe(1);
    expect(await hops('QT6CL', 49 * 3_600_000)).toBeNull();
  });

  it('is not told by what a gateway brings of them', async () => {
    at.modem.hear('QT0GW-10>APZTMB,WIDE1-1:}QT6CL>APZTMB,TCPIP,QT0GW-10*:>By the internet');
    await received(1);
    expect(await hops('QT6CL')).toBeNull();
  });
});
