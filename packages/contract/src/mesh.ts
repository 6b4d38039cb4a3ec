import { z } from 'zod';
import { instant } from './traffic';
import { meshNodeId } from './bearers';

export const meshNodeView = z.object({
  bearerId: z.string(),
  node: meshNodeId,
  /** The number stands for it while it has told no tag. */
  tag: z.string(),
  name: z.string(),
  carrier: z.boolean(),
  latitude: z.number().nullable(),
  longitude: z.number().nullable(),
  batteryPercent: z.number().nullable(),
  snrDb: z.number().nullable(),
  hops: z.number().int().nullable(),
  lastAt: instant,
  distanceKm: z.number().nullable(),
  azimuthDeg: z.number().nullable(),
});
export type MeshNodeView = z.infer<typeof meshNodeView>;
