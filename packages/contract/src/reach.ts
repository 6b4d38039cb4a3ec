import { LEAST_PROFILE_POINTS, MOST_PROFILE_POINTS } from '@tombolo/core';
import { z } from 'zod';

/** A place in a query: latitude and longitude in degrees with a comma between. */
const place = z
  .string()
  .max(60)
  .transform((text, context) => {
    const [latitude, longitude, more] = text.split(',').map((part) => (part.trim() === '' ? NaN : Number(part)));
    const read = z
      .object({ latitude: z.number().min(-90).max(90), longitude: z.number().min(-180).max(180) })
      .safeParse({ latitude, longitude });
    if (read.success && more === undefined) return read.data;
    context.addIssue({ code: 'custom', message: 'latitude and longitude in degrees, such as 41.207,-43.421' });
    return z.NEVER;
  });

export const profileQuery = z.object({
  from: place,
  to: place,
  points: z.coerce.number().int().min(LEAST_PROFILE_POINTS).max(MOST_PROFILE_POINTS).default(401),
});

/** The ground between two places. */
export const profileView = z.object({
  /** Null where no elevation is known: no tile, or a hole in it. */
  points: z.array(z.object({ distanceKm: z.number(), groundM: z.number().nullable() })),
  /** Tiles that would tell the rest. */
  missing: z.array(z.string()),
});
export type ProfileView = z.infer<typeof profileView>;
