import type { MeshRadio, Position } from '@tombolo/core';

/** A node of the district's mesh, 868 MHz. */
export interface DistrictNode {
  readonly node: string;
  readonly tag: string;
  readonly name: string;
  /** It repeats for others first. */
  readonly carrier: boolean;
  readonly position: Position;
  readonly heightM: number;
  readonly batteryPercent: number;
}

export const meshNodes = {
  hospital: {
    node: '01D1-0001',
    tag: 'HOSPRF',
    name: 'Hospital roof',
    carrier: true,
    position: { latitude: 41.2093, longitude: -43.4262 },
    heightM: 45,
    batteryPercent: 100,
  },
  school: {
    node: '01D1-0002',
    tag: 'SKSCHL',
    name: 'Skerra school',
    carrier: false,
    position: { latitude: 41.269, longitude: -43.285 },
    heightM: 18,
    batteryPercent: 88,
  },
  rigg: {
    node: '01D1-0003',
    tag: 'BCNRIG',
    name: 'Beacon Rigg',
    carrier: true,
    position: { latitude: 41.2657, longitude: -43.2963 },
    heightM: 188,
    batteryPercent: 97,
  },
  pumpHouse: {
    node: '01D1-0004',
    tag: 'PUMPHS',
    name: 'Oxbar pump house',
    carrier: false,
    position: { latitude: 41.1692, longitude: -43.3478 },
    heightM: 8,
    batteryPercent: 71,
  },
  farm: {
    node: '01D1-0005',
    tag: 'LSFARM',
    name: 'Little Skerra farm',
    carrier: false,
    position: { latitude: 41.2851, longitude: -43.2479 },
    heightM: 12,
    batteryPercent: 64,
  },
  clinic: {
    node: '01D1-0006',
    tag: 'VLCLIN',
    name: 'Veil clinic',
    carrier: false,
    position: { latitude: 41.1197, longitude: -43.5094 },
    heightM: 18,
    batteryPercent: 92,
  },
  truck: {
    node: '01D1-0007',
    tag: 'TRUCK2',
    name: 'Supply truck',
    carrier: false,
    position: { latitude: 41.2195, longitude: -43.433 },
    heightM: 30,
    batteryPercent: 80,
  },
} as const satisfies Record<string, DistrictNode>;

/** Ground between nodes, dB: the school lies under Beacon Rigg and hears the Rigg alone. */
export const meshScreenDb = (a: string, b: string): number => {
  const { school, rigg } = meshNodes;
  const other = a === school.node ? b : b === school.node ? a : null;
  return other === null || other === rigg.node ? 0 : 70;
};

/** How all its nodes are set. */
export const MESH_RADIO: MeshRadio = {
  frequencyHz: 868_300_000,
  spreadingFactor: 9,
  bandwidthHz: 125_000,
  codingRate: 1,
};
export const MESH_ROOT = 'hollin/mesh';
export const OPEN_CHANNEL = { name: 'Sound', key: null };
/** Made up for the demo; a real group makes its own. */
export const RELIEF_CHANNEL = { name: 'Sound Relief', key: 'SG9sbGluIFNvdW5kIHJlbGllZiBjaGFubmVsIGtleS4=' };

/** What the people with a node say, minutes after the first start. */
export const meshTexts: readonly {
  readonly atMin: number;
  readonly from: keyof typeof meshNodes;
  readonly to: 'school' | 'all';
  readonly text: string;
}[] = [
  {
    atMin: 1,
    from: 'farm',
    to: 'school',
    text: 'Ferry Office: When do you run again? 3 people and 40 sheep here',
  },
  { atMin: 4, from: 'pumpHouse', to: 'all', text: 'Water level 182 cm, rising 4 cm an hour' },
  { atMin: 34, from: 'pumpHouse', to: 'all', text: 'Water level 185 cm, rising 6 cm an hour' },
];
