import { LEAST_GRID_SIDE, LEAST_PROFILE_POINTS, MOST_GRID_CELLS, MOST_PROFILE_POINTS } from '@tombolo/core';
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

/** An area is no larger than so many degrees either way. */
export const MOST_AREA_DEG = 4;

/** The ground of an area, at points on so many meridians and parallels, the edges included. */
export const groundQuery = z
  .object({
    south: z.coerce.number().min(-90).max(90),
    west: z.coerce.number().min(-180).max(180),
    north: z.coerce.number().min(-90).max(90),
    east: z.coerce.number().min(-180).max(180),
    columns: z.coerce.number().int().min(LEAST_GRID_SIDE),
    rows: z.coerce.number().int().min(LEAST_GRID_SIDE),
  })
  .refine(({ south, north }) => south < north, { path: ['north'], message: 'north of the south edge' })
  .refine(({ west, east }) => west < east, {
    path: ['east'],
    message: 'east of the west edge; an area does not cross 180°',
  })
  .refine(({ south, north, west, east }) => north - south <= MOST_AREA_DEG && east - west <= MOST_AREA_DEG, {
    path: ['north'],
    message: `at most ${MOST_AREA_DEG} degrees either way`,
  })
  .refine(({ columns, rows }) => columns * rows <= MOST_GRID_CELLS, {
    path: ['columns'],
    message: `at most ${MOST_GRID_CELLS} points`,
  });

export const groundView = z.object({
  /** Metres above the sea, from the north-west corner row by row: signed 16 bits, the low octet first, in base64; −32768 where nothing is known. */
  heights: z.string(),
  /** Tiles that would tell the rest. */
  missing: z.array(z.string()),
});
export type GroundView = z.infer<typeof groundView>;
