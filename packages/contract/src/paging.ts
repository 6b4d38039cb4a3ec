import { z } from 'zod';
import { rowNumber } from './parameters';

/** A page of rows, by keyset. */
export const page = {
  limit: z.coerce.number().int().min(1).max(500).default(50),
  /** Keyset paging: the `next` of the page before. */
  before: rowNumber.optional(),
};

/** A switch in an address. */
export const flag = z.enum(['true', 'false']).transform((text) => text === 'true');

/** The last moment that there is (ECMA-262, time values), ms since 1970. */
const LAST_MS = 8.64e15;

/** Where a page of items ended: when the last one was, ms since 1970, and its number. */
const itemCursor = z
  .string()
  .regex(/^\d{1,16}:[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/)
  .refine((cursor) => Number(cursor.split(':')[0]) <= LAST_MS);

export const itemsQuery = z.object({
  text: z.string().trim().max(100).optional(),
  /** All that passed with somebody: by a call, another address, a group, or a name of the list of people. */
  with: z.string().trim().min(1).max(254).optional(),
  filed: flag.optional(),
  direction: z.enum(['out', 'in']).optional(),
  limit: page.limit,
  before: itemCursor.optional(),
});
export const transmissionsQuery = itemsQuery.pick({ limit: true, before: true });

export const pageOf = <T extends z.ZodType>(rows: T) => z.object({ rows: z.array(rows), next: z.string().nullable() });
