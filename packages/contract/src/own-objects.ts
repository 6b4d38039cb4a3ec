import { faultOfThing, type OwnThing } from '@tombolo/core';
import { z } from 'zod';
import { path } from './path';
import { position } from './place';
import { instant } from './traffic';

/** What goes out of ourselves by itself, over what and how often. */
export const goesOut = z.object({
  bearerId: z.string().min(1).max(60),
  path,
  everyMin: z.number('minutes').int('whole minutes').min(5, '5 min or more').max(240, '240 min at most'),
});
export type GoesOut = z.output<typeof goesOut>;

const thing = z.object({
  form: z.enum(['object', 'item']),
  name: z.string(),
  ...position.shape,
  symbol: z.string(),
  comment: z.string().max(200),
}) satisfies z.ZodType<OwnThing>;

const complain = (written: OwnThing, context: z.RefinementCtx) => {
  const fault = faultOfThing(written);
  if (fault) context.addIssue({ code: 'custom', path: [fault.field], message: fault.reason });
};

/** A thing as it is put on the map, or moved. `revision` is the one that was shown; null for a new one. */
export const ownObjectChange = z
  .object({
    ...thing.shape,
    ...goesOut.shape,
    revision: z.number().int().nullable(),
    /** Somebody else reports it now, and agreed to leave it to us. */
    takeOver: z.boolean().default(false),
  })
  .superRefine(complain);
export type OwnObjectChange = z.input<typeof ownObjectChange>;

/** A thing that we report for others. */
export const ownObject = z.object({
  id: z.uuid(),
  ...thing.shape,
  ...goesOut.shape,
  revision: z.number().int(),
  /** False: we say that it is gone, or somebody else reports it. */
  live: z.boolean(),
  /** Who took it over. */
  takenBy: z.string().nullable(),
  changedAt: instant,
  /** Sent since it was changed last. */
  times: z.number().int(),
  lastAt: instant.nullable(),
  /** Why it does not go out; null where it does. */
  stopped: z.string().nullable(),
});
export type OwnObject = z.infer<typeof ownObject>;
export const ownObjectEnd = z.object({ revision: z.number().int() });
