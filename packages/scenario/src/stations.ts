import type { Position, RadioSite, Symbol } from '@tombolo/core';

/** A radio station of the district. All calls begin with Q: they can be nobody's. */
export interface DistrictStation {
  readonly call: string;
  readonly name: string;
  readonly position: Position;
  readonly site: RadioSite;
  /** How much worse than a quiet receiver it hears, dB: other transmitters on the same hill. */
  readonly noiseDb: number;
  readonly symbol: Symbol;
}

const symbol = (code: string, table = '/'): Symbol => ({ table, code });

export const OWN_CALL = 'QT2AR-7';

export const stations = {
  own: {
    call: OWN_CALL,
    name: 'Field operator, Great Skerra school',
    position: { latitude: 41.269, longitude: -43.285 },
    site: { heightM: 14, powerW: 5, gainDbi: -3, clutterDb: 30 },
    noiseDb: 0,
    symbol: symbol('['),
  },
  netControl: {
    call: 'QT1NC',
    name: 'Net control, Hollinport',
    position: { latitude: 41.2068, longitude: -43.4204 },
    site: { heightM: 28, powerW: 25, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('-'),
  },
  gateway: {
    call: 'QT1GW-10',
    name: 'Gateway, Hollinport',
    position: { latitude: 41.2075, longitude: -43.4222 },
    site: { heightM: 35, powerW: 25, gainDbi: 3, clutterDb: 0 },
    noiseDb: 3,
    symbol: symbol('&', 'R'),
  },
  tarnHead: {
    call: 'QT0TH-3',
    name: 'Digipeater Tarn Head',
    position: { latitude: 41.2425, longitude: -43.456 },
    site: { heightM: 412, powerW: 50, gainDbi: 6, clutterDb: 0 },
    noiseDb: 15,
    symbol: symbol('#', 'W'),
  },
  beaconRigg: {
    call: 'QT0BR-1',
    name: 'Digipeater Beacon Rigg',
    position: { latitude: 41.2655, longitude: -43.296 },
    site: { heightM: 188, powerW: 20, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('#', '1'),
  },
  oxbarDigi: {
    call: 'QT0OX-2',
    name: 'Digipeater Oxbar, which does not sign',
    position: { latitude: 41.171, longitude: -43.342 },
    site: { heightM: 40, powerW: 20, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('#', 'L'),
  },
  stacksDigi: {
    call: 'QT0ST-4',
    name: 'Digipeater on The Stacks, which takes its call out of turn',
    position: { latitude: 41.23, longitude: -43.2 },
    site: { heightM: 60, powerW: 20, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('#'),
  },
  crossBand: {
    call: 'QT2XB-6',
    name: 'Cross-band gateway, Little Skerra',
    position: { latitude: 41.285, longitude: -43.248 },
    site: { heightM: 40, powerW: 20, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('&', 'X'),
  },
  truck: {
    call: 'QT3TK-14',
    name: 'Supply truck',
    position: { latitude: 41.2195, longitude: -43.433 },
    site: { heightM: 30, powerW: 25, gainDbi: 0, clutterDb: 6 },
    noiseDb: 0,
    symbol: symbol('k'),
  },
  lifeboat: {
    call: 'QT4LB-8',
    name: 'Lifeboat',
    position: { latitude: 41.098, longitude: -43.545 },
    site: { heightM: 4, powerW: 25, gainDbi: 0, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('s'),
  },
  weather: {
    call: 'QT5WX-13',
    name: 'Weather station, Veil',
    position: { latitude: 41.1208, longitude: -43.5135 },
    site: { heightM: 32, powerW: 10, gainDbi: 0, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('_'),
  },
  pumpHouse: {
    call: 'QT8PH-12',
    name: 'Pump house Oxbar, water level',
    position: { latitude: 41.169, longitude: -43.348 },
    site: { heightM: 16, powerW: 10, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('w'),
  },
  patrol: {
    call: 'QT3PC-9',
    name: 'Road patrol',
    position: { latitude: 41.2105, longitude: -43.448 },
    site: { heightM: 40, powerW: 25, gainDbi: 0, clutterDb: 6 },
    noiseDb: 0,
    symbol: symbol('v'),
  },
  clinic: {
    call: 'QT6CL',
    name: 'Clinic, Veil',
    position: { latitude: 41.1197, longitude: -43.5094 },
    site: { heightM: 18, powerW: 10, gainDbi: 0, clutterDb: 6 },
    noiseDb: 0,
    symbol: symbol('-'),
  },
  shelter: {
    call: 'QT7SH-5',
    name: 'Shelter leader, Great Skerra school',
    position: { latitude: 41.2693, longitude: -43.2846 },
    site: { heightM: 13, powerW: 5, gainDbi: -3, clutterDb: 24 },
    noiseDb: 0,
    symbol: symbol('['),
  },
  board: {
    call: 'QT1BB-4',
    name: 'Bulletin board Hollinport',
    position: { latitude: 41.2081, longitude: -43.4198 },
    site: { heightM: 30, powerW: 25, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('B'),
  },
  boardVeil: {
    call: 'QT6BB-4',
    name: 'Bulletin board Veil',
    position: { latitude: 41.1202, longitude: -43.5121 },
    site: { heightM: 24, powerW: 25, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('B'),
  },
  mailGateway: {
    call: 'QT1RM-12',
    name: 'Radio mail gateway Hollinport',
    position: { latitude: 41.2079, longitude: -43.4211 },
    site: { heightM: 32, powerW: 25, gainDbi: 3, clutterDb: 0 },
    noiseDb: 0,
    symbol: symbol('B'),
  },
} as const satisfies Record<string, DistrictStation>;

/** Heard on the other band of the cross-band gateway only: it has no radio on this channel. */
export const FARM_TRACTOR = {
  call: 'QT8LS-9',
  name: 'Tractor of the farm on Little Skerra',
  position: { latitude: 41.2838, longitude: -43.2451 },
  symbol: symbol('F'),
};

/** Ground that stands between stations, in dB beside distance and height. */
export interface Screen {
  readonly of: string;
  readonly toward: readonly string[] | 'all others';
  readonly lossDb: number;
  readonly because: string;
}

export const screens: readonly Screen[] = [
  {
    of: stations.own.call,
    toward: [
      stations.tarnHead.call,
      stations.netControl.call,
      stations.gateway.call,
      stations.truck.call,
      stations.patrol.call,
      stations.board.call,
      stations.mailGateway.call,
    ],
    lossDb: 20,
    because: 'the school lies under Beacon Rigg',
  },
  {
    of: stations.shelter.call,
    toward: [
      stations.tarnHead.call,
      stations.netControl.call,
      stations.gateway.call,
      stations.truck.call,
      stations.patrol.call,
      stations.board.call,
      stations.mailGateway.call,
    ],
    lossDb: 20,
    because: 'the school lies under Beacon Rigg',
  },
  {
    of: stations.beaconRigg.call,
    toward: [stations.lifeboat.call, stations.clinic.call, stations.weather.call],
    lossDb: 60,
    because: 'Hollin stands between the Skerras and Veil',
  },
  {
    of: stations.own.call,
    toward: [stations.lifeboat.call, stations.clinic.call, stations.weather.call],
    lossDb: 60,
    because: 'Hollin stands between the Skerras and Veil',
  },
];

/** Channel of the district, for the arithmetic only. */
export const FREQUENCY_MHZ = 144.39;
