import { meshNodeId, meshRadio, meshTag } from '@tombolo/contract';
import { decodeMeshFrame, fail, ok, type MeshFrame, type Parsed } from '@tombolo/core';
import { z } from 'zod';

/** Messages between a program and its node of the mesh, version 2; docs/mesh.md describes them. */
const v = z.literal(2);
const packetNumber = z.string().regex(/^[0-9a-f]{8}$/);
const MOST_BASE64 = 340;

const heard = z.object({
  v,
  frame: z.base64().max(MOST_BASE64),
  snrDb: z.number().min(-60).max(60).nullable(),
  rssiDbm: z.number().min(-200).max(60).nullable(),
  at: z.iso.datetime(),
});

/** A frame that the node heard, and how well. */
export interface MeshHeard {
  readonly frame: MeshFrame;
  readonly octets: Uint8Array;
  readonly snrDb: number | null;
  readonly rssiDbm: number | null;
  readonly at: string;
}

const taken = z.object({ v, number: packetNumber });

/** How long the node was on the air by itself, for others and to announce itself, by minute of the last hour; retained. */
const account = z.object({
  v,
  minutes: z.array(z.object({ at: z.iso.datetime(), ms: z.number().min(0).max(60_000) })).max(70),
});
export type MeshAccount = z.infer<typeof account>;

/** How the node is set, in its own words; retained. */
const state = z.object({ v, radio: meshRadio.nullable(), tag: z.string().max(40), carrier: z.boolean() });
export type MeshNodeState = z.infer<typeof state>;

/** What the node knows of others, retained by the broker: names outlive a restart of the program. */
const known = z.object({
  v,
  nodes: z
    .array(
      z.object({
        node: meshNodeId,
        tag: meshTag,
        name: z.string().max(40),
        carrier: z.boolean(),
        latitude: z.number().min(-90).max(90).nullable(),
        longitude: z.number().min(-180).max(180).nullable(),
        percent: z.number().min(0).max(100).nullable(),
        at: z.iso.datetime(),
      }),
    )
    .max(500),
});
export type MeshKnown = z.infer<typeof known>;

const MOST_OCTETS = 4096;
const MOST_KNOWN_OCTETS = 200_000;
const MOST_ACCOUNT_OCTETS = 8192;

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

export function parseMeshHeard(octets: Uint8Array): Parsed<MeshHeard> {
  const message = parse(heard, octets);
  if (!message.ok) return message;
  const { frame: base64, snrDb, rssiDbm, at } = message.value;
  const onAir = new Uint8Array(Buffer.from(base64, 'base64'));
  const frame = decodeMeshFrame(onAir);
  return frame.ok ? ok({ frame: frame.value, octets: onAir, snrDb, rssiDbm, at }) : frame;
}

export const parseMeshTaken = (octets: Uint8Array) => parse(taken, octets);
export const parseMeshAccount = (octets: Uint8Array): Parsed<MeshAccount> =>
  parse(account, octets, MOST_ACCOUNT_OCTETS);
export const parseMeshState = (octets: Uint8Array): Parsed<MeshNodeState> => parse(state, octets);
export const parseMeshKnown = (octets: Uint8Array): Parsed<MeshKnown> => parse(known, octets, MOST_KNOWN_OCTETS);
