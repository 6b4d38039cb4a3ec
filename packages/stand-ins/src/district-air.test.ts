import {
  createCaptureReader,
  decodeFrame,
  decodeInformation,
  learnMeaning,
  linksOf,
  NO_MEANING,
  packetOfFrame,
  placeOf,
  readTelemetry,
  type Information,
  type Packet,
} from '@tombolo/core';
import { OWN_CALL, stations } from '@tombolo/scenario';
import { runDistrict } from './run-district';

interface Aired {
  readonly atMs: number;
  readonly packet: Packet;
  readonly data: Information;
}

/** Six hours of the district as our radio heard them. */
let air: Aired[];
let notUnderstood: string[];
beforeAll(async () => {
  const district = await runDistrict({ seed: 'air' });
  await district.stop();
  const records = createCaptureReader().push(district.history);
  if (!records.ok) throw new Error(records.error.reason);
  air = [];
  notUnderstood = [];
  for (const record of records.value) {
    if (record.kind !== 'record') throw new Error(record.reason);
    const frame = decodeFrame(record.frame);
    const packet = frame.ok ? packetOfFrame(frame.value) : frame;
    if (!packet.ok) throw new Error(packet.error.reason);
    const data = decodeInformation(packet.value.info, packet.value.destination);
    if (data.ok) air.push({ atMs: record.atMs, packet: packet.value, data: data.value });
    else notUnderstood.push(data.error.reason);
  }
}, 60_000);

const of = <K extends Information['kind']>(kind: K, source?: string) =>
  air.filter(
    (aired): aired is Aired & { data: Extract<Information, { kind: K }> } =>
      aired.data.kind === kind && (source === undefined || aired.packet.source === source),
  );

const things = (kind: 'object' | 'item') =>
  air.flatMap(({ data }) => ((data.kind === 'object' || data.kind === 'item') && data.kind === kind ? [data] : []));

describe('what the district sends', () => {
  it('is understood without exception, and is of many kinds', () => {
    expect(notUnderstood).toEqual([]);
    expect(air.length).toBeGreaterThan(500);
    const kinds = new Set(air.map(({ data }) => data.kind));
    for (const kind of [
      'position',
      'Mic-E',
      'object',
      'item',
      'status',
      'telemetry',
      'telemetry definition',
      'message',
      'ack',
      'bulletin',
    ] as const)
      expect(kinds).toContain(kind);
  });
  it('tells of a gale: the glass falls while the wind grows', () => {
    const reports = of('position', stations.weather.call).flatMap(({ data }) => (data.weather ? [data.weather] : []));
    expect(reports.length).toBeGreaterThan(20);
    const half = Math.floor(reports.length / 2);
    const mean = (part: typeof reports, quantity: 'pressureHpa' | 'windMph') =>
      part.reduce((sum, weather) => sum + weather[quantity]!, 0) / part.length;
    expect(mean(reports.slice(half), 'pressureHpa')).toBeLessThan(mean(reports.slice(0, half), 'pressureHpa') - 2);
    expect(mean(reports.slice(half), 'windMph')).toBeGreaterThan(mean(reports.slice(0, half), 'windMph') + 2);
  });
  it('tells of the water in the pump house, in metres, by what the pump house itself defined', () => {
    const meaning = of('telemetry definition', stations.pumpHouse.call).reduce(
      (known, { data }) => learnMeaning(known, data.definition),
      NO_MEANING,
    );
    const levels = of('telemetry', stations.pumpHouse.call).map(({ data }) =>
      readTelemetry(data, meaning).analog.find(({ name }) => name === 'Level')!,
    );
    expect(levels.length).toBeGreaterThan(10);
    expect(levels[0]).toMatchObject({ unit: 'm', value: expect.closeTo(1.1, 0) });
    expect(levels.at(-1)!.value).toBeGreaterThan(levels[0]!.value + 0.3);
  });
  it('moves: the truck on its road, the patrol by Mic-E, the lifeboat at sea', () => {
    for (const { call } of [stations.truck, stations.lifeboat]) {
      const places = new Set(of('position', call).map(({ data }) => `${data.latitude}/${data.longitude}`));
      expect(places.size).toBeGreaterThan(10);
    }
    const patrol = of('Mic-E', stations.patrol.call);
    expect(patrol.length).toBeGreaterThan(10);
    for (const { data } of patrol) {
      expect(data).toMatchObject({ message: 'In Service', comment: 'Road patrol', faults: [] });
      expect(placeOf(data)!.latitude).toBeCloseTo(41.21, 1);
    }
  });
  it('puts things on the map, and takes the ferry off it again', () => {
    const ferry = things('object').filter(({ name }) => name === 'FERRY');
    expect(ferry.some(({ live }) => live)).toBe(true);
    expect(ferry.at(-1)!.live).toBe(false);
    expect(things('object').find(({ name }) => name === 'SHELTER')).toMatchObject({
      frequency: { frequencyMHz: 146.52 },
      comment: 'School, 62 people',
    });
    expect(things('item').find(({ name }) => name === 'BAR SHUT')?.live).toBe(true);
  });
  it('proves who hears whom: our radio hears the fill-in, which hears what we do not', () => {
    const links = new Set(
      air.flatMap(({ packet }) => linksOf(packet, OWN_CALL).map(({ from, by }) => `${by} hears ${from}`)),
    );
    expect(links).toContain(`${OWN_CALL} hears ${stations.beaconRigg.call}`);
    expect(links).toContain(`${stations.tarnHead.call} hears ${stations.weather.call}`);
    expect(links).not.toContain(`${OWN_CALL} hears ${stations.weather.call}`);
  });
});
