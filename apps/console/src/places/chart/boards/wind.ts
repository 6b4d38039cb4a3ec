import type { Series, Watch } from '@tombolo/contract';
import { thresholdInWords, windOf, type DistanceUnit } from '@tombolo/core';

/** The station tells wind in this. */
const TOLD = 'm/s';
const WIND = /^weather:(?:windMph|gustMph)$/;

/** How a limit or value of a quantity is shown: the unit, and how many of it go into one of the station's. Null where nothing is changed. */
export const shownWind = (quantity: string, unit: DistanceUnit): { unit: string; perMs: number } | null =>
  WIND.test(quantity) ? windOf(unit) : null;

/** Wind as this device wants it; every other series as it is. */
export function inChosenUnit(series: Series, unit: DistanceUnit): Series {
  const wind = series.unit === TOLD ? windOf(unit) : null;
  if (!wind || wind.perMs === 1) return series;
  return {
    ...series,
    unit: wind.unit,
    pace: series.pace && [series.pace[0] * wind.perMs, series.pace[1] * wind.perMs],
    points: series.points.map((point) => ({ ...point, value: point.value * wind.perMs })),
  };
}

/** What is watched for, in the unit of this device: `above 45 mph`. */
export function watchInWords({ quantity, threshold, words }: Watch, unit: DistanceUnit): string {
  const wind = shownWind(quantity, unit);
  if (!wind || wind.perMs === 1 || threshold.when === 'silent for') return words;
  const limit = Math.round(threshold.limit * wind.perMs * 10) / 10;
  return thresholdInWords({ ...threshold, limit }, wind.unit);
}
