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

/** What was heard here by packet radio in two days, against what was reckoned of it from the map. */
export const measuredView = z.object({
  /** Whether it is known where this station is. */
  placed: z.boolean(),
  /** Those that stay in one place and say where; the farthest last. */
  stations: z.array(
    z.object({
      call: z.string(),
      distanceKm: z.number(),
      /** Reckoned, above what a frame needs, dB. */
      marginDb: z.number(),
      heard: z.number().int(),
      /** Not heard, although a copy by another road proves that it was sent. */
      missed: z.number().int(),
    }),
  ),
  /** By how much reception differs from what was reckoned, dB, all stations together; null where nothing tells. */
  factor: z.object({ db: z.number(), lowDb: z.number(), highDb: z.number() }).nullable(),
});
export type MeasuredView = z.infer<typeof measuredView>;

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
