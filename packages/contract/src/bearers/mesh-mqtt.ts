import {
  BANDWIDTHS_HZ,
  checkMeshFrequency,
  CODING_RATES,
  MOST_HOPS,
  MOST_NODE_NAME_OCTETS,
  mostMeshTextOctets,
  NODE_TAG,
  octetsOfText,
  parseNodeNumber,
  SPREADING_FACTORS,
  type MeshRadio,
} from '@tombolo/core';
import { z } from 'zod';
import { host, port } from './address';
import { registerBearerKind, type BearerConfig } from './kind';

/** A node's number: `01D1-0002`, however it was typed. */
export const meshNodeId = z
  .string()
  .max(40)
  .transform((text, context) => {
    const number = parseNodeNumber(text);
    if (number.ok) return number.value;
    context.addIssue({ code: 'custom', message: number.error.reason });
    return z.NEVER;
  });
/** What people call a node. */
export const meshTag = z.string().trim().toUpperCase().regex(NODE_TAG, 'one to six letters or digits');
export const meshChannel = z.object({
  name: z.string().trim().min(1).max(24),
  /** 32 octets in base64; null for a channel that anybody can read. */
  key: z
    .string()
    .regex(/^[A-Za-z0-9+/]{43}=$/, 'a key of 32 octets in base64')
    .nullable(),
  /** The station has a key and does not tell it; given back so, the key stays as it is. */
  kept: z.boolean().default(false),
});
export type MeshChannel = z.infer<typeof meshChannel>;

const oneOf = (values: readonly number[], words: string) => z.number().refine((value) => values.includes(value), words);

/** Where and how a mesh works; all its nodes share it. */
export const meshRadio = z
  .object({
    frequencyHz: z.number().int(),
    spreadingFactor: oneOf(SPREADING_FACTORS, 'a spreading factor from 7 to 12'),
    bandwidthHz: oneOf(BANDWIDTHS_HZ, '125, 250 or 500 kHz'),
    codingRate: oneOf(CODING_RATES, 'a coding rate from 4/5 to 4/8'),
  })
  .superRefine(({ frequencyHz, bandwidthHz }, context) => {
    const checked = checkMeshFrequency(frequencyHz, bandwidthHz);
    if (!checked.ok) context.addIssue({ code: 'custom', path: ['frequencyHz'], message: checked.error.reason });
  }) satisfies z.ZodType<MeshRadio>;

/** A mesh, reached by its own node over MQTT (docs/mesh.md). */
export const meshMqttConfig = z.object({
  kind: z.literal('mesh-mqtt'),
  host,
  port,
  root: z
    .string()
    .regex(/^[A-Za-z0-9_-]+(\/[A-Za-z0-9_-]+)*$/, 'a topic without wildcards')
    .max(100),
  node: meshNodeId,
  tag: meshTag,
  name: z
    .string()
    .trim()
    .min(1)
    .refine(
      (text) => octetsOfText(text).length <= MOST_NODE_NAME_OCTETS,
      `at most ${MOST_NODE_NAME_OCTETS} octets of UTF-8`,
    ),
  /** It repeats for others first; a terminal stands in behind. */
  carrier: z.boolean().default(false),
  hopLimit: z.number().int().min(1).max(MOST_HOPS).default(4),
  /** How often the node tells that it is there. */
  announceMin: z.number().int().min(5).max(1440).default(20),
  /** Null while it is not set: until then nothing is sent. */
  radio: meshRadio.nullable().default(null),
  channels: z.array(meshChannel).min(1).max(8),
});

declare module './kind' {
  interface BearerSchemas {
    'mesh-mqtt': typeof meshMqttConfig;
  }
}

export type MeshConfig = BearerConfig<'mesh-mqtt'>;

/** Names that look the same to a reader are the same. */
const nameKey = (name: string): string => name.normalize('NFKC').trim().toLowerCase();

registerBearerKind({
  id: 'mesh-mqtt',
  config: meshMqttConfig,
  amateurBand: false,
  sends: 'texts',
  carriage: ({ node, tag, hopLimit, channels, radio }) => ({
    what: 'texts',
    node,
    tag,
    hopLimit,
    radio,
    channels: channels.map(({ name, key, kept }) => ({ name, sealed: key !== null || kept })),
  }),
  sendersLicensed: false,
  mostTextOctets: mostMeshTextOctets(false),
  proves: 'delivered',
  secrets: {
    hide: (config) => ({
      ...config,
      channels: config.channels.map(({ name, key }) => ({ name, key: null, kept: key !== null })),
    }),
    keep(before, after) {
      const had = new Map(before.channels.map((channel) => [nameKey(channel.name), channel.key]));
      const channels = after.channels.map(({ name, key, kept }) => ({
        name,
        key: kept ? (had.get(nameKey(name)) ?? null) : key,
        kept: false,
      }));
      const replaced = channels.filter(({ name, key }) => had.has(nameKey(name)) && had.get(nameKey(name)) !== key);
      // A key that is said to stay where there is none would open a channel that is taken for private.
      const unknown = after.channels.filter(({ name, kept }) => kept && had.get(nameKey(name)) == null);
      return {
        config: { ...after, channels },
        replaced: replaced.map(({ name }) => name),
        unknown: unknown.map(({ name }) => name),
      };
    },
  },
});
