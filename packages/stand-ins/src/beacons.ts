import {
  encodeCapabilities,
  encodeItem,
  encodeObject,
  encodeStatus,
  locatorOf,
  NO_WEATHER,
  type Position,
} from '@tombolo/core';
import {
  LIFEBOAT_DRILL,
  OBJECT_EVERY_MIN,
  PUMP_TELEMETRY,
  scriptedObjects,
  stations,
  type DistrictStation,
  type ScriptedObject,
} from '@tombolo/scenario';
import type { Radio } from './radio/channel';
import type { World } from './sim/world';
import { runBeacon } from './stations/beacon';
import { runMicEBeacon } from './stations/mic-e-beacon';
import { runMover } from './stations/mover';
import { packetFrom, sendPacket } from './stations/packets';
import { runTelemetry } from './stations/telemetry';

export const USUAL_PATH = ['WIDE1-1', 'WIDE2-1'];
const MINUTE_MS = 60_000;
const HOUR_MS = 3_600_000;

const TRUCK_TRACK: readonly Position[] = [
  { latitude: 41.2075, longitude: -43.4235 },
  { latitude: 41.2195, longitude: -43.433 },
  { latitude: 41.2308, longitude: -43.4395 },
  { latitude: 41.2231, longitude: -43.4076 },
  { latitude: 41.1985, longitude: -43.3905 },
];
const LIFEBOAT_TRACK: readonly Position[] = [
  { latitude: 41.098, longitude: -43.545 },
  { latitude: 41.1046, longitude: -43.487 },
  { latitude: 41.1302, longitude: -43.4551 },
  { latitude: 41.1502, longitude: -43.4702 },
];
const PATROL_TRACK: readonly Position[] = [
  { latitude: 41.2075, longitude: -43.4235 },
  { latitude: 41.2105, longitude: -43.448 },
  { latitude: 41.2165, longitude: -43.476 },
];

type RadioOf = (station: DistrictStation) => Radio;

/** What the stations of the district tell of themselves, again and again. */
export function runBeacons(world: World, of: RadioOf, scriptStartMs: number, drillAtMin: number | null): void {
  const fixed = (
    station: DistrictStation,
    everyS: number,
    path: readonly string[],
    messaging: boolean,
    comment: string,
  ) => runBeacon(world, of(station), { everyS, path, messaging, report: () => ({ symbol: station.symbol, comment }) });
  fixed(stations.netControl, 1800, USUAL_PATH, true, '146.520MHz Toff Sound Emergency Net control');
  fixed(stations.gateway, 1800, [], true, 'Gateway Hollinport');
  fixed(stations.tarnHead, 1800, [], false, 'Digipeater 412 m');
  fixed(stations.beaconRigg, 1800, [], false, '146.940MHz T100 -060 R25m Fill-in for the Skerras');
  fixed(stations.shelter, 1800, ['WIDE1-1', stations.stacksDigi.call], true, 'Shelter Great Skerra school');
  fixed(stations.stacksDigi, 1800, [], false, 'Digipeater on the rocks');
  fixed(stations.crossBand, 1800, ['WIDE1-1'], false, 'Between 433 MHz and here');
  fixed(stations.clinic, 1800, USUAL_PATH, true, 'Clinic Veil');
  runMovers(world, of, drillAtMin === null ? null : scriptStartMs + drillAtMin * MINUTE_MS);
  runVeilWeather(world, of(stations.weather));
  runPumpHouse(world, of(stations.pumpHouse));
  runNetControl(world, of(stations.netControl), scriptStartMs);
  every(world, 'gateway/capabilities', 3600, () =>
    sendPacket(
      of(stations.gateway),
      packetFrom(
        stations.gateway.call,
        [],
        encodeCapabilities([
          { name: 'IGATE', value: null },
          { name: 'MSG_CNT', value: '14' },
          { name: 'LOC_CNT', value: '9' },
        ]),
      ),
    ),
  );
}

function runMovers(world: World, of: RadioOf, drillAtMs: number | null): void {
  const drills = () =>
    drillAtMs !== null && world.now() >= drillAtMs && world.now() < drillAtMs + LIFEBOAT_DRILL.forMin * MINUTE_MS;
  const truck = runMover(world, of(stations.truck).station, TRUCK_TRACK, 18);
  runBeacon(world, of(stations.truck), {
    everyS: 120,
    path: USUAL_PATH,
    messaging: true,
    report: () => ({ symbol: stations.truck.symbol, ...truck, comment: 'Supplies' }),
  });
  const lifeboat = runMover(world, of(stations.lifeboat).station, LIFEBOAT_TRACK, 14);
  runBeacon(world, of(stations.lifeboat), {
    everyS: 120,
    path: USUAL_PATH,
    messaging: true,
    report: () => ({
      symbol: stations.lifeboat.symbol,
      ...lifeboat,
      comment: drills() ? LIFEBOAT_DRILL.comment : 'Lifeboat',
    }),
  });
  const patrol = runMover(world, of(stations.patrol).station, PATROL_TRACK, 16);
  runMicEBeacon(world, of(stations.patrol), {
    everyS: 300,
    path: USUAL_PATH,
    report: () => ({
      symbol: stations.patrol.symbol,
      ...patrol,
      message: 'In Service',
      altitudeM: 35,
      comment: 'Road patrol',
    }),
  });
}

/** The gale builds up over nine hours while the glass falls; units as the format has them. */
function runVeilWeather(world: World, radio: Radio): void {
  const chance = world.random('weather');
  const start = world.now();
  runBeacon(world, radio, {
    everyS: 600,
    path: ['WIDE2-1'],
    messaging: false,
    report: () => {
      const hours = (world.now() - start) / HOUR_MS;
      const windMph = Math.round(28 + 1.6 * hours + 6 * chance());
      return {
        symbol: stations.weather.symbol,
        weather: {
          ...NO_WEATHER,
          windDirectionDeg: Math.round(45 + 10 * (chance() - 0.5)),
          windMph,
          gustMph: Math.round(windMph * (1.25 + 0.2 * chance())),
          temperatureF: Math.round(51 - 0.4 * hours),
          rainHourIn100: Math.round(2 + 1.5 * hours + 2 * chance()),
          rainMidnightIn100: Math.round(12 + 5 * hours),
          humidityPercent: Math.min(99, Math.round(84 + hours)),
          pressureHpa: Math.round(10 * (1001.5 - 1.1 * hours + 0.3 * chance())) / 10,
        },
        comment: '',
      };
    },
  });
}

/** The water in the pump house rises slowly, and the pump runs when it is high. */
function runPumpHouse(world: World, radio: Radio): void {
  const chance = world.random('pump house');
  const start = world.now();
  const { names, units, coefficients, senses, project } = PUMP_TELEMETRY;
  runTelemetry(world, radio, {
    everyS: 600,
    path: USUAL_PATH,
    definitionEvery: 12,
    definitions: [
      { what: 'names', labels: names },
      { what: 'units', labels: units },
      { what: 'equations', coefficients },
      { what: 'senses', senses, project },
    ],
    measure: () => {
      const hours = (world.now() - start) / HOUR_MS;
      const levelM = Math.min(2.5, 1.1 + 0.11 * hours + 0.04 * chance());
      const pumping = levelM > 1.5;
      return {
        analog: [levelM * 100, (12.9 - 0.08 * hours) * 10, pumping ? 2 * (18 + 4 * chance()) : 0, 2 * (10 + 9), 0],
        bits: `${pumping ? 1 : 0}0${hours > 2 ? 1 : 0}00000`,
      };
    },
  });
  runBeacon(world, radio, {
    everyS: 1800,
    // The digipeater next door answers to this, and does not sign.
    path: ['LOCAL', ...USUAL_PATH],
    messaging: false,
    report: () => ({ symbol: stations.pumpHouse.symbol, comment: project }),
  });
}

/** Net control tells where it listens, and puts things on the map of all. */
function runNetControl(world: World, radio: Radio, scriptStartMs: number): void {
  const { call, symbol } = stations.netControl;
  every(world, 'net control/status', 3000, () =>
    sendPacket(
      radio,
      packetFrom(
        call,
        USUAL_PATH,
        encodeStatus('Sound Emergency Net on the hour', {
          locator: { text: locatorOf(stations.netControl.position), symbol },
        }),
      ),
    ),
  );
  for (const thing of scriptedObjects) runObject(world, radio, thing, scriptStartMs);
}

/** Sends an object or item from its time on; when it ends, three times that it is gone. */
function runObject(world: World, radio: Radio, thing: ScriptedObject, scriptStartMs: number): void {
  const send = (live: boolean) => {
    const { latitude, longitude, symbol, comment, name } = thing;
    const place = { latitude, longitude, symbol, comment: live ? comment : '' };
    const text = thing.form === 'object' ? encodeObject(name, live, world.now(), place) : encodeItem(name, live, place);
    if (!text.ok) throw new Error(`a stand-in made an object that cannot be sent: ${text.error.reason}`);
    sendPacket(radio, packetFrom(radio.station.call, USUAL_PATH, text.value));
  };
  const endMs = thing.untilMin === null ? Infinity : scriptStartMs + thing.untilMin * MINUTE_MS;
  const next = () => {
    if (world.now() >= endMs) return;
    send(true);
    world.after(OBJECT_EVERY_MIN * MINUTE_MS, next);
  };
  world.after(Math.max(0, scriptStartMs + thing.fromMin * MINUTE_MS - world.now()), next);
  if (endMs < Infinity)
    for (const n of [0, 1, 2])
      if (endMs - world.now() >= 0) world.after(endMs - world.now() + n * 2 * MINUTE_MS, () => send(false));
}

/** Again and again, a little off the beat, from a chance moment on. */
function every(world: World, name: string, everyS: number, action: () => void): void {
  const chance = world.random(`beat/${name}`);
  const again = () => {
    action();
    world.after(1000 * everyS * (0.9 + 0.2 * chance()), again);
  };
  world.after(1000 * everyS * chance(), again);
}
