/** Units that an operator may choose for distances. */
export const DISTANCE_UNITS = ['km', 'mi', 'nmi'] as const;
export type DistanceUnit = (typeof DISTANCE_UNITS)[number];

/** Kilometres in one unit: the international mile and nautical mile. */
const KM: Readonly<Record<DistanceUnit, number>> = { km: 1, mi: 1.609344, nmi: 1.852 };
const PER_HOUR: Readonly<Record<DistanceUnit, string>> = { km: 'km/h', mi: 'mph', nmi: 'kn' };

export const inUnit = (km: number, unit: DistanceUnit): number => km / KM[unit];
export const kmOf = (value: number, unit: DistanceUnit): number => value * KM[unit];

/** `3.2 km`, `14 nmi`: two figures are enough to go by. */
export function distanceInWords(km: number, unit: DistanceUnit): string {
  const value = inUnit(km, unit);
  return `${value < 10 ? value.toFixed(1) : value.toFixed(0)} ${unit}`;
}

export const speedInWords = (knots: number, unit: DistanceUnit): string =>
  `${Math.round(inUnit(knots * KM.nmi, unit))} ${PER_HOUR[unit]}`;
