import { checkMeshText } from '@tombolo/core';
import { z } from 'zod';
import { instant, precedence } from './traffic';
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

/** A text into the mesh: to a node, or to everybody on a channel. */
export const newMeshText = z.object({
  id: z.uuid(),
  bearerId: z.string().min(1),
  to: z.union([z.object({ node: meshNodeId }), z.object({ channel: z.string().min(1).max(24) })]),
  /** The channel whose key it is sent under. */
  body: z.string().superRefine((text, context) => {
    // On a sealed channel less fits; the station looks at that.
    const checked = checkMeshText(text, false);
    if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
  }),
  channel: z.string().min(1).max(24),
  precedence: precedence.default('routine'),
  answers: z.uuid().nullable().default(null),
});
export type NewMeshText = z.input<typeof newMeshText>;
