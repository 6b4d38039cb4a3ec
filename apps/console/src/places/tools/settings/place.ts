import { positionOfLocator } from '@tombolo/core';
import { settings as settingsSchema, type Settings } from '@tombolo/contract';

type Place = { ok: true; position: Settings['position'] } | { ok: false; reason: string };

/** Decimal degrees (`41.2690 -43.2850`) or a locator; empty for no position. */
export function readPlace(text: string): Place {
  const trimmed = text.trim();
  if (trimmed === '') return { ok: true, position: null };
  const degrees = /^(-?\d+(?:\.\d+)?)[\s,]+(-?\d+(?:\.\d+)?)$/.exec(trimmed);
  if (degrees) {
    const position = settingsSchema.shape.position.safeParse({
      latitude: Number(degrees[1]),
      longitude: Number(degrees[2]),
    });
    return position.success
      ? { ok: true, position: position.data }
      : { ok: false, reason: 'latitude from −90 to 90, longitude from −180 to 180' };
  }
  const locator = positionOfLocator(trimmed);
  return locator.ok
    ? { ok: true, position: locator.value }
    : { ok: false, reason: 'decimal degrees such as 41.2690 -43.2850, or a locator such as GN81ig' };
}

/** Four decimals are ten metres: nearer than any antenna needs to be known. */
export const degreesOf = ({ latitude, longitude }: NonNullable<Settings['position']>): string =>
  `${latitude.toFixed(4)} ${longitude.toFixed(4)}`;
