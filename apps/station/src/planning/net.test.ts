import { randomUUID } from 'node:crypto';
import type { NetView } from '@tombolo/contract';
import { OUR_END } from '@tombolo/core';
import { eachWithModem, eventually } from '../testing/harness';
import { listPerson } from '../testing/listed';

const at = eachWithModem();
const net = () => at.api.get<NetView>('/net');
const received = (n: number) =>
  eventually(async () => {
    const [row] = await at.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= n;
  });

describe('the net as it is known', () => {
  it('has nobody but us, and who is on the list of people, before anything is heard', async () => {
    await listPerson(at.api, 'Clinic', { call: 'QT6CL' });
    const view = await net();
    expect(view.own).toBe('QT2AR-7');
    expect(view.stations.map(({ call, name, wanted }) => [call, name, wanted])).toEqual([
      ['QT2AR-7', null, false],
      ['QT6CL', 'Clinic', true],
    ]);
    // Nothing is known of the hop, and it says so.
    expect(view.hops.map(({ from, to, seen }) => [from, to, seen]).sort()).toEqual([
      ['QT2AR-7', 'QT6CL', false],
      ['QT6CL', 'QT2AR-7', false],
    ]);
  });

  it('tells who repeats, who was heard by whom, and where they stand', async () => {
    at.modem.hear('QT1NC>APZTMB,WIDE2-1:!4112.42N/04325.26W-Net control');
    at.modem.hear('QT5WX-13>APZTMB,QT0TH-3*,WIDE2-1:>Weather');
    at.modem.hear('QT0TH-3>APZTMB:!4114.55N/04327.36W#Tarn Head');
    await received(3);
    const { stations, hops } = await net();
    const told = (call: string) => stations.find((one) => one.call === call);
    expect(told('QT0TH-3')).toMatchObject({ repeats: true, wanted: false, place: { latitude: 41.2425 } });
    expect(told('QT1NC')).toMatchObject({ repeats: false, wanted: true });
    expect(told('QT5WX-13')).toMatchObject({ place: null, wanted: true });
    const hop = (from: string, to: string) => hops.find((one) => one.from === from && one.to === to);
    expect(hop('QT5WX-13', 'QT0TH-3')).toMatchObject({ seen: true });
    expect(hop('QT0TH-3', 'QT2AR-7')).toMatchObject({ seen: true });
    // What is only passed over by another digipeater was not heard.
    at.modem.hear('QT0BR-1>APZTMB:>Here');
    at.modem.hear('QT8PH-12>APZTMB,QT0BR-1*:>Over the other');
    await received(5);
    const later = (await net()).hops.find(({ from, to }) => from === 'QT5WX-13' && to === 'QT0BR-1');
    expect(later?.seen ?? false).toBe(false);
    // Two that only are written to carry nothing for each other.
    expect(hop('QT1NC', 'QT5WX-13')).toBeUndefined();
    for (const { belief } of hops) expect(belief.alpha > 0 && belief.beta > 0).toBe(true);
  });

  it('guesses from the map with our set and antenna where Equipment names them', async () => {
    await at.api.patch('/settings', { position: { latitude: 41.269, longitude: -43.285 } });
    await listPerson(at.api, 'Farm', { call: 'QT7SH-5' });
    at.modem.hear('QT7SH-5>APZTMB:!4127.00N/04350.00W-Far off');
    await received(1);
    const chances = async () => {
      const { hops, stations } = await net();
      const ownEnd = stations.find(({ call }) => call === 'QT2AR-7')!.end;
      const [there, back] = [
        ['QT2AR-7', 'QT7SH-5'],
        ['QT7SH-5', 'QT2AR-7'],
      ].map(([from, to]) => hops.find((hop) => hop.from === from && hop.to === to)!.belief);
      return {
        ownEnd,
        there: there!.alpha / (there!.alpha + there!.beta),
        back: back!.alpha / (back!.alpha + back!.beta),
      };
    };
    const usual = await chances();
    expect(usual.ownEnd).toEqual(OUR_END);
    const [radio, antenna] = [randomUUID(), randomUUID()];
    const bandsMHz = [{ fromMHz: 144, toMHz: 146 }];
    const set = {
      kind: 'radio',
      name: 'Base',
      bandsMHz,
      receivers: 1,
      modem: null,
      positionFrom: 'none',
      scans: false,
    };
    await at.api.put(`/equipment/${radio}`, { ...set, powerW: 50 });
    await at.api.put(`/equipment/${antenna}`, {
      kind: 'antenna',
      name: 'Mast',
      onId: radio,
      bandsMHz,
      gainDbi: 6,
      heightM: 20,
    });
    const strong = await chances();
    expect(strong.ownEnd).toEqual({ antennaM: 20, powerW: 50, gainDbi: 6, clutterDb: OUR_END.clutterDb });
    expect(strong.there).toBeGreaterThan(usual.there);
    // They are heard as before, and better by what the antenna gains.
    expect(strong.back).toBeGreaterThanOrEqual(usual.back);
    await at.api.put(`/equipment/${radio}`, { ...set, powerW: 0.5 });
    expect((await chances()).there).toBeLessThan(strong.there);
  });

  it('holds no more than a hundred stations, whoever shouts, with those of the list among them', async () => {
    await listPerson(at.api, 'Clinic', { call: 'QT6CL' });
    for (let n = 0; n < 130; n++)
      at.modem.hear(`QX${String(n).padStart(3, '0').replace(/^(\d)/, '$1A')}>APZTMB:>I am here`);
    await received(130);
    const { stations } = await net();
    expect(stations.length).toBeLessThanOrEqual(101);
    expect(stations.some(({ call }) => call === 'QT6CL')).toBe(true);
  });
});
