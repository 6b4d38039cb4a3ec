import type { StationView } from '@tombolo/contract';
import { compassPoint, speedInWords, type DistanceUnit } from '@tombolo/core';

/** `toward NNE (24°) at 33 km/h`; null when it does not move or does not say. */
export function motionWords(
  { courseDeg, speedKnots }: Pick<StationView, 'courseDeg' | 'speedKnots'>,
  unit: DistanceUnit,
): string | null {
  if (speedKnots === null) return null;
  const toward = courseDeg === null ? '' : `toward ${compassPoint(courseDeg)} (${Math.round(courseDeg)}°) `;
  return speedKnots === 0 ? 'standing' : `${toward}at ${speedInWords(speedKnots, unit)}`;
}

const degreesAndMinutes = (value: number, positive: string, negative: string): string => {
  const thousandths = Math.round(Math.abs(value) * 60_000);
  const degrees = Math.floor(thousandths / 60_000);
  return `${degrees}° ${((thousandths - degrees * 60_000) / 1000).toFixed(3)}′ ${value < 0 ? negative : positive}`;
};

export const placeWords = (latitude: number, longitude: number): string =>
  `${degreesAndMinutes(latitude, 'N', 'S')}, ${degreesAndMinutes(longitude, 'E', 'W')}`;
