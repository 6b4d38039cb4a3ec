import { readPosition } from '@tombolo/core';
import { settings as settingsSchema, type Settings } from '@tombolo/contract';

type Place = { ok: true; position: Settings['position'] } | { ok: false; reason: string };

/** A position as people type it, or none when nothing is typed. */
export function readPlace(text: string): Place {
  if (text.trim() === '') return { ok: true, position: null };
  const position = settingsSchema.shape.position.safeParse(readPosition(text));
  return position.success && position.data !== null
    ? { ok: true, position: position.data }
    : {
        ok: false,
        reason:
          'a latitude from 90° S to 90° N and a longitude from 180° W to 180° E, such as 41.2690 -43.2850 or 41° 16.14′ N 43° 17.10′ W, or a locator such as GN81ig',
      };
}

/** Four decimals are ten metres: nearer than any antenna needs to be known. */
export const degreesOf = ({ latitude, longitude }: NonNullable<Settings['position']>): string =>
  `${latitude.toFixed(4)} ${longitude.toFixed(4)}`;
