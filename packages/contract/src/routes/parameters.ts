import { z } from 'zod';

/** Parameters in paths. */
export const byUuid = z.object({ id: z.uuid() });
/** Of rows that are counted. */
export const byNumber = z.object({ id: z.string().regex(/^\d{1,18}$/) });
export const byCall = z.object({ call: z.string().max(12) });
export const ofBearer = z.object({ bearerId: z.string().min(1) });
