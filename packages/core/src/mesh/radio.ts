import { fail, ok, type Parsed } from '../result';
import { loraAirTimeMs, loraSymbolMs, type LoraSetting } from './air-time';

/** Where and how a mesh works: all its nodes share it, and it is set before anything goes out. */
export interface MeshRadio {
  /** Middle of the channel. */
  readonly frequencyHz: number;
  readonly spreadingFactor: number;
  readonly bandwidthHz: number;
  /** Coding rate 4/(4 + n), n from 1 to 4. */
  readonly codingRate: number;
}

export const MESH_PREAMBLE_SYMBOLS = 12;
export const SPREADING_FACTORS = [7, 8, 9, 10, 11, 12] as const;
export const BANDWIDTHS_HZ = [125_000, 250_000, 500_000] as const;
export const CODING_RATES = [1, 2, 3, 4] as const;

/** Licence-free bands in which a mesh may be; which of them is free where you are, your local rules say. */
const BANDS = [
  { fromHz: 433_050_000, toHz: 434_790_000, words: '433.05–434.79' },
  { fromHz: 863_000_000, toHz: 870_000_000, words: '863–870' },
  { fromHz: 902_000_000, toHz: 928_000_000, words: '902–928' },
] as const;

/** Whether the whole channel lies in a licence-free band: what is sealed may go nowhere else. */
export function checkMeshFrequency(frequencyHz: number, bandwidthHz: number): Parsed<number> {
  const inside = BANDS.some(
    ({ fromHz, toHz }) => frequencyHz - bandwidthHz / 2 >= fromHz && frequencyHz + bandwidthHz / 2 <= toHz,
  );
  return inside
    ? ok(frequencyHz)
    : fail(0, `the channel must lie inside a licence-free band: ${BANDS.map(({ words }) => words).join(', ')} MHz`);
}

export const loraSettingOf = (radio: Omit<MeshRadio, 'frequencyHz'>): LoraSetting => ({
  spreadingFactor: radio.spreadingFactor,
  bandwidthHz: radio.bandwidthHz,
  codingRate: radio.codingRate,
  preambleSymbols: MESH_PREAMBLE_SYMBOLS,
});

/** Air time of a frame, ms. */
export const meshAirTimeMs = (frameOctets: number, radio: Omit<MeshRadio, 'frequencyHz'>): number =>
  loraAirTimeMs(frameOctets, loraSettingOf(radio));

export const sameMeshRadio = (a: MeshRadio, b: MeshRadio): boolean =>
  a.frequencyHz === b.frequencyHz &&
  a.spreadingFactor === b.spreadingFactor &&
  a.bandwidthHz === b.bandwidthHz &&
  a.codingRate === b.codingRate;

/** `868.3 MHz, SF9, 125 kHz, 4/5` */
export const meshRadioWords = (radio: MeshRadio): string =>
  `${radio.frequencyHz / 1e6} MHz, SF${radio.spreadingFactor}, ${radio.bandwidthHz / 1000} kHz, 4/${4 + radio.codingRate}`;

/** Reach and time of a setting in plain words, by its symbol time: the longer a symbol, the weaker a signal is still read. */
export function meshReachWords(radio: Omit<MeshRadio, 'frequencyHz'>): string {
  const symbolMs = loraSymbolMs(radio);
  if (symbolMs < 1.5) return 'near and quick';
  if (symbolMs < 3) return 'fairly near, quick';
  if (symbolMs < 6) return 'farther, not quick';
  if (symbolMs < 12) return 'far and slow';
  return 'farthest and very slow';
}
