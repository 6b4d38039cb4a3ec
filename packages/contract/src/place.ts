import { z } from 'zod';

/** A point on the earth, degrees, WGS-84. */
export const position = z.object({
  latitude: z.number().min(-90).max(90),
  longitude: z.number().min(-180).max(180),
});
