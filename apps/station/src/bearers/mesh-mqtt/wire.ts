import { meshNodeId } from '@tombolo/contract';
import { fail, ok, type Parsed } from '@tombolo/core';
import { z } from 'zod';

/** Messages between a program and its node of the mesh, version 1; docs/mesh.md describes them. */
const number = z.string().regex(/^[A-Za-z0-9]{1,5}$/);

export const meshBody = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('text'), n: number, text: z.string().min(1).max(400) }),
  z.object({ kind: z.literal('ack'), n: number }),
  z.object({ kind: z.literal('info'), short: z.string().min(1).max(4), long: z.string().max(40), router: z.boolean() }),
  z.object({
    kind: z.literal('position'),
    latitude: z.number().min(-90).max(90),
    longitude: z.number().min(-180).max(180),
  }),
  z.object({ kind: z.literal('battery'), percent: z.number().min(0).max(100) }),
]);
export type MeshBody = z.infer<typeof meshBody>;

const envelope = {
  v: z.literal(1),
  id: meshNodeId,
  to: z.union([z.literal('all'), meshNodeId]),
  channel: z.string().regex(/^[0-9a-f]{2}$/),
  body: meshBody.nullable(),
  sealed: z.base64().max(600).nullable(),
};

export const meshHeard = z.object({
  ...envelope,
  from: meshNodeId,
  at: z.iso.datetime(),
  hops: z.number().int().min(0).max(7),
  relay: meshNodeId.nullable(),
  snrDb: z.number().nullable(),
  rssiDbm: z.number().nullable(),
});
export type MeshHeard = z.infer<typeof meshHeard>;

export const meshSend = z.object({ ...envelope, hopLimit: z.number().int().min(1).max(7) });
export type MeshSend = z.infer<typeof meshSend>;

const meshTaken = z.object({ v: z.literal(1), id: meshNodeId });

/** What the node knows of others, retained by the broker: names outlive a restart of the program. */
const meshKnown = z.object({
  v: z.literal(1),
  nodes: z
    .array(
      z.object({
        node: meshNodeId,
        short: z.string().min(1).max(4),
        long: z.string().max(40),
        router: z.boolean(),
        latitude: z.number().min(-90).max(90).nullable(),
        longitude: z.number().min(-180).max(180).nullable(),
        percent: z.number().min(0).max(100).nullable(),
        at: z.iso.datetime(),
      }),
    )
    .max(500),
});
export type MeshKnown = z.infer<typeof meshKnown>;

const MOST_OCTETS = 4096;
const MOST_KNOWN_OCTETS = 200_000;

function parse<T extends z.ZodType>(schema: T, octets: Uint8Array, most = MOST_OCTETS): Parsed<z.output<T>> {
  if (octets.length > most) return fail(most, `longer than ${most} octets`);
  let value: unknown;
  try {
    value = JSON.parse(Buffer.from(octets).toString('utf8'));
  } catch {
    return fail(0, 'no JSON');
  }
  const parsed = schema.safeParse(value);
  if (parsed.success) return ok(parsed.data);
  const [issue] = parsed.error.issues;
  return fail(0, `${issue?.path.join('.') || 'message'}: ${issue?.message ?? 'not as described'}`);
}

export const parseMeshHeard = (octets: Uint8Array): Parsed<MeshHeard> => parse(meshHeard, octets);
export const parseMeshTaken = (octets: Uint8Array) => parse(meshTaken, octets);
export const parseMeshKnown = (octets: Uint8Array): Parsed<MeshKnown> => parse(meshKnown, octets, MOST_KNOWN_OCTETS);
export const parseMeshBody = (octets: Uint8Array): Parsed<MeshBody> => parse(meshBody, octets);
