import {
  BANDWIDTHS_HZ,
  checkMeshFrequency,
  checkProfile,
  CODING_RATES,
  MOST_HOPS,
  MOST_NODE_NAME_OCTETS,
  NODE_TAG,
  octetsOfText,
  parseAddress,
  parseNodeNumber,
  SPREADING_FACTORS,
  type BoardProfile,
  type MeshRadio,
} from '@tombolo/core';
import { z } from 'zod';
import { path } from './settings';
import { instant } from './traffic';

const host = z
  .string()
  .trim()
  .regex(/^[A-Za-z0-9.:_-]{1,253}$/, 'a host name or address');
const port = z.number().int().min(1).max(65_535);

/** A modem that speaks KISS over TCP. */
export const kissTcpConfig = z.object({
  kind: z.literal('kiss-tcp'),
  host,
  port,
  modemPort: z.number().int().min(0).max(15).default(0),
  /** The modem confirms each frame when it has sent it (an extension of KISS that some offer). */
  confirms: z.boolean().default(false),
});
/** Kinds that carry packets of their own: an answer to one of these comes back as a packet. */
export const PACKET_BEARERS: readonly string[] = ['kiss-tcp'];

/** A feed of packets as text lines over TCP; it is only listened to. */
export const lineFeedConfig = z.object({
  kind: z.literal('line-feed'),
  host,
  port,
  /** The modem link that answers to what the feed brings; null, so that a feed alone never keys the radio. */
  answerOver: z.string().min(1).nullable().default(null),
});

/** A call sign with SSID that a connection can be made to. */
export const stationAddress = z
  .string()
  .trim()
  .toUpperCase()
  .superRefine((text, context) => {
    const address = parseAddress(text);
    if (!address.ok) context.addIssue({ code: 'custom', message: address.error.reason });
  });

const pattern = z.string().min(1).max(400);
/** How a board words its prompts and commands. */
export const boardProfile = z
  .object({
    id: z.string().min(1).max(40),
    name: z.string().min(1).max(60),
    prompt: pattern,
    list: z.object({ unread: pattern, everything: pattern, row: pattern, bulletinType: pattern }),
    read: z.object({ command: pattern, field: pattern, carried: pattern, textBegins: pattern, textEnds: pattern }),
    leave: z.object({
      private: pattern,
      bulletin: pattern,
      asksSubject: pattern,
      asksText: pattern,
      endOfText: pattern,
      taken: pattern,
      refused: pattern,
    }),
    mine: z.object({ command: pattern, row: pattern }).optional(),
    goodbye: pattern,
  })
  .superRefine((profile, context) => {
    const checked = checkProfile(profile);
    if (!checked.ok) context.addIssue({ code: 'custom', message: checked.error.reason });
  }) satisfies z.ZodType<BoardProfile>;

/** A bulletin board, called over a modem that is set up already. */
export const boardConfig = z.object({
  kind: z.literal('board'),
  /** The modem link that connections go over. */
  over: z.string().min(1),
  call: stationAddress,
  path: path.default([]),
  profile: boardProfile,
});

/** A gateway for radio mail: SMTP and POP3 over a connection. */
export const radioMailConfig = z.object({
  kind: z.literal('radio-mail'),
  over: z.string().min(1),
  call: stationAddress,
  path: path.default([]),
  /** Own address, which the gateway knows our call by. */
  address: z.email('a mail address'),
  user: z.string().trim().min(1).max(60),
  /** Crosses the air in the clear, as everything on an amateur band must. Empty in answers. */
  password: z.string().max(60),
});

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

export const bearerConfig = z.discriminatedUnion('kind', [
  kissTcpConfig,
  lineFeedConfig,
  boardConfig,
  radioMailConfig,
  meshMqttConfig,
]);
export type BearerConfig = z.infer<typeof bearerConfig>;

export const bearerState = z.object({
  link: z.enum(['up', 'connecting', 'down', 'off']),
  since: instant,
  reason: z.string().nullable(),
  nextTryAt: instant.nullable(),
});
export type BearerState = z.infer<typeof bearerState>;

export const bearerView = z.object({
  id: z.string(),
  name: z.string(),
  config: bearerConfig,
  enabled: z.boolean(),
  canTransmit: z.boolean(),
  state: bearerState,
  /** Legs that wait for this bearer. */
  queued: z.number().int(),
  /** Share of the last ten minutes that heard packets took of the channel, 0–1; null for bearers without a channel. */
  load: z.number().nullable(),
  lastHeardAt: instant.nullable(),
  heardLastHour: z.number().int(),
  /** Of bearers on a shared channel: what was sent in the last ten minutes without a key pressed, and what was left out. */
  automatic: z
    .object({
      spentMs: z.number().int(),
      mostMs: z.number().int(),
      /** Answers that were not sent, for want of air time or because they came too late, in the last day. */
      leftOut: z.number().int(),
    })
    .nullable(),
  /** Of bearers whose share of the hour is limited: what their transmitter used of it, what it repeated for others included. */
  duty: z
    .object({
      subBand: z.string(),
      usedMs: z.number().int(),
      /** Null where no limit is known. */
      mostMs: z.number().int().nullable(),
      words: z.string(),
    })
    .nullable(),
});
export type BearerView = z.infer<typeof bearerView>;

export const newBearer = z.object({
  name: z.string().trim().min(1, 'give it a name').max(60),
  config: bearerConfig,
});
export type NewBearer = z.input<typeof newBearer>;

export const bearerChange = z.object({
  name: z.string().trim().min(1).max(60).optional(),
  config: bearerConfig.optional(),
  enabled: z.boolean().optional(),
  /** Said on purpose: a key that the station has is replaced by another one. */
  replaceKeys: z.boolean().default(false),
});

/** Asks for what lets others join a channel; the key leaves the station only so. */
export const invitationRequest = z.object({ channel: z.string().min(1).max(24) });
export const invitationView = z.object({ line: z.string() });

/** What stands at the key: whether everything is held, and what the equipment has taken that may still go out. */
export const holdView = z.object({
  heldSince: instant.nullable(),
  /** Frames that the equipment holds by our reckoning; nobody but it can stop these. */
  atEquipment: z.array(z.object({ bearerId: z.string(), bearer: z.string(), line: z.string(), untilAt: instant })),
  /** What waits here. */
  waiting: z.number().int(),
});
export type HoldView = z.infer<typeof holdView>;
export const holdChange = z.object({ held: z.boolean() });

export const simulation = z.object({
  running: z.boolean(),
  speed: z.union([z.literal(1), z.literal(10), z.literal(60)]),
  simulatedAt: instant,
  seed: z.string(),
});
export type Simulation = z.infer<typeof simulation>;
export const simulationChange = simulation.pick({ speed: true });
