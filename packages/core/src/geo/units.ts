/** Units that an operator may choose for distances. */
export const DISTANCE_UNITS = ['km', 'mi', 'nmi'] as const;
export type DistanceUnit = (typeof DISTANCE_UNITS)[number];

/** Kilometres in one unit: the international mile and nautical mile. */
const KM: Readonly<Record<DistanceUnit, number>> = { km: 1, mi: 1.609344, nmi: 1.852 };
const PER_HOUR: Readonly<Record<DistanceUnit, string>> = { km: 'km/h', mi: 'mph', nmi: 'kn' };

export const inUnit = (km: number, unit: DistanceUnit): number => km / KM[unit];
export const kmOf = (value: number, unit: DistanceUnit): number => value * KM[unit];

/** The international foot. */
const FOOT_M = 0.3048;

/** `12 m`, `40 ft` beside miles: heights, and how far a position may be off. */
export const metresInWords = (metres: number, unit: DistanceUnit): string =>
  unit === 'mi' ? `${Math.round(metres / FOOT_M)} ft` : `${Math.round(metres)} m`;

/** Nearer than this a tenth of the unit says too little, km. */
const NEAR_KM = 0.1;

/** `3.2 km`, `14 nmi`, `60 m`: two figures are enough to go by. */
export function distanceInWords(km: number, unit: DistanceUnit): string {
  if (km < NEAR_KM) return metresInWords(Math.round(km * 100) * 10, unit);
  const value = inUnit(km, unit);
  return `${value < 9.95 ? value.toFixed(1) : value.toFixed(0)} ${unit}`;
}

const HOUR_S = 3600;

/** What wind is told in beside a unit of distance – metres a second beside kilometres, as weather services do (common practice, no source) – and how many of it are one metre a second. */
export function windOf(unit: DistanceUnit): { unit: string; perMs: number } {
  return unit === 'km' ? { unit: 'm/s', perMs: 1 } : { unit: PER_HOUR[unit], perMs: HOUR_S / (KM[unit] * 1000) };
}

export const speedInWords = (knots: number, unit: DistanceUnit): string =>
  `${Math.round(inUnit(knots * KM.nmi, unit))} ${PER_HOUR[unit]}`;
