import { freeSpaceLossDb } from '../radio/reach';
import { bulgeM, fresnelRadiusM, groundLossDb } from './diffraction';
import { knownShare, type ProfilePoint } from './profile';

/** One end of a link. */
export interface RadioEnd {
  /** Of the antenna above the ground it stands on. */
  readonly antennaM: number;
  readonly powerW: number;
  readonly gainDbi: number;
  /** Loss by what stands around the antenna: a house, a hull, trees, a body. */
  readonly clutterDb: number;
}

/** A way to use a radio: what it needs at the receiver. */
export interface ModemSetting {
  readonly id: string;
  readonly words: string;
  readonly sensitivityDbm: number;
}

/** Thermal noise in 1 Hz at 290 K, dBm. */
const NOISE_DBM_HZ = -174;
/** Of a receiver without a preamplifier (common practice, no source). */
const NOISE_FIGURE_DB = 6;
/** Least signal over noise by spreading factor 7 … 12, dB (the usual table of makers’ data sheets; from memory). */
const LEAST_SNR_DB = [-7.5, -10, -12.5, -15, -17.5, -20];

/** What a chirp of some spreading factor needs at the receiver, dBm. */
export const chirpSensitivityDbm = (spreadingFactor: number, bandwidthHz: number): number =>
  NOISE_DBM_HZ + 10 * Math.log10(bandwidthHz) + NOISE_FIGURE_DB + LEAST_SNR_DB[spreadingFactor - 7]!;

/** Packet radio on FM voice sets, and faster on sets with a data port (common practice, no source). */
export const PACKET_SETTINGS: readonly ModemSetting[] = [
  { id: '1200', words: '1200 baud, two tones on FM', sensitivityDbm: -116 },
  { id: '9600', words: '9600 baud, shifted carrier', sensitivityDbm: -108 },
];

export const chirpSettings = (bandwidthHz: number): readonly ModemSetting[] =>
  LEAST_SNR_DB.map((_, n) => ({
    id: `sf${n + 7}`,
    words: `spreading factor ${n + 7} at ${bandwidthHz / 1000} kHz`,
    sensitivityDbm: chirpSensitivityDbm(n + 7, bandwidthHz),
  }));

/** How surely a link with so much margin carries one frame: half at none; 6 dB of scatter from place to place (common practice, no source). */
export const chanceOfMargin = (marginDb: number): number => 1 / (1 + Math.exp(-marginDb / SLOPE_DB));
const SCATTER_DB = 6;
/** A logistic with the deviation of a normal distribution of that scatter. */
export const SLOPE_DB = (SCATTER_DB * Math.sqrt(3)) / Math.PI;

export interface Reach {
  readonly distanceKm: number;
  readonly freeSpaceDb: number;
  readonly groundDb: number;
  /** At the far end, and back here: the same loss either way, only powers differ. */
  readonly receivedDbm: number;
  readonly backDbm: number;
  /** Where the ground comes nearest to the straight line or rises above it: how far above (m; below is clear), and the zone there. */
  readonly worst: { readonly distanceKm: number; readonly aboveM: number; readonly zoneM: number } | null;
  /** Share of the ground that is known, 0 to 1; what is not was taken as the sea. */
  readonly known: number;
}

/** Antennas nearer than this are beside each other: no formula of far fields holds. */
export const NEAREST_KM = 0.01;

const dbm = (powerW: number): number => 10 * Math.log10(powerW * 1000);

/** What power, gains and clutter bring together for the weaker of both directions, dBm before any loss on the way. */
export const weakerGainDb = (from: RadioEnd, to: RadioEnd): number =>
  dbm(Math.min(from.powerW, to.powerW)) + from.gainDbi + to.gainDbi - from.clutterDb - to.clutterDb;

/** What one end receives of the other over a profile. Where the ground is not known it is taken as the sea, and `known` says so. */
export function reachOver(profile: readonly ProfilePoint[], from: RadioEnd, to: RadioEnd, frequencyMHz: number): Reach {
  const d = Math.max(NEAREST_KM, profile.at(-1)?.distanceKm ?? 0);
  const ground = profile.map(({ groundM }) => Math.max(0, groundM ?? 0));
  const fromM = (ground[0] ?? 0) + from.antennaM;
  const toM = (ground.at(-1) ?? 0) + to.antennaM;
  const inner = profile.slice(1, -1);
  const wet = inner.filter(({ groundM }) => groundM === null || groundM <= 0).length;
  const groundDb = groundLossDb({
    distanceKm: profile.at(-1)?.distanceKm ?? 0,
    groundM: ground,
    fromM,
    toM,
    frequencyMHz,
    water: inner.length === 0 ? 0 : wet / inner.length,
  });
  const freeSpaceDb = freeSpaceLossDb(d, frequencyMHz);
  let worst: Reach['worst'] = null;
  let most = -Infinity;
  inner.forEach(({ distanceKm }, n) => {
    const line = (fromM * (d - distanceKm) + toM * distanceKm) / d;
    const aboveM = ground[n + 1]! + bulgeM(distanceKm, d - distanceKm) - line;
    const zoneM = fresnelRadiusM(distanceKm, d - distanceKm, frequencyMHz);
    if (aboveM / zoneM <= most) return;
    most = aboveM / zoneM;
    worst = { distanceKm, aboveM, zoneM };
  });
  const lossDb = freeSpaceDb + groundDb + from.clutterDb + to.clutterDb - from.gainDbi - to.gainDbi;
  return {
    distanceKm: d,
    freeSpaceDb,
    groundDb,
    receivedDbm: dbm(from.powerW) - lossDb,
    backDbm: dbm(to.powerW) - lossDb,
    worst,
    known: knownShare(profile),
  };
}
