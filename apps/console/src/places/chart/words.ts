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
