import {
  faultOfPointer,
  LINE_SPEEDS_BD,
  NODE_TAG,
  ON_AIR_SPEEDS_BD,
  type Antenna,
  type BandMHz,
  type BuiltInModem,
  type BatteryCell,
  type Connection,
  type MeshNodePiece,
  type Modem,
  type PositionReceiver,
  type Radio,
} from '@tombolo/core';
import { z } from 'zod';
import { host, port, serialDevice } from './bearers/address';
import { instant } from './traffic';

const words = (most: number, least = 0) =>
  z
    .string()
    .trim()
    .min(least, 'something is missing here')
    .max(most, `at most ${most} characters`)
    .regex(/^\P{Cc}*$/u, 'no control characters');
const name = words(60, 1);
const pointer = z.uuid().nullable().default(null);
const oneOf = <const V extends readonly number[]>(values: V) =>
  z.literal([...values] as V[number][], `one of ${values.join(', ')}`);
const within = (least: number, most: number, of: string) => {
  const message = `${of}, from ${least} to ${most}`;
  return z.number(message).min(least, message).max(most, message);
};
const mhz = within(0.1, 10_000, 'a frequency in MHz');
const bands = z
  .array(
    z.object({ fromMHz: mhz, toMHz: mhz }).refine(({ fromMHz, toMHz }) => fromMHz <= toMHz, {
      message: 'a band goes from the lower frequency to the higher',
    }) satisfies z.ZodType<BandMHz>,
  )
  .max(20);
const watts = within(0.001, 1500, 'a power in W');
const delay = within(0, 2550, 'milliseconds').int();

/** A radio, by its properties. */
export const radioPiece = z.object({
  kind: z.literal('radio'),
  name,
  bandsMHz: bands,
  powerW: watts,
  receivers: z.literal([1, 2]),
  modem: z
    .object({
      receiver: z.literal([1, 2]),
      onAirBd: oneOf(ON_AIR_SPEEDS_BD),
      txDelayMs: delay,
      stopsWithWireless: z.boolean(),
    })
    .nullable() satisfies z.ZodType<BuiltInModem | null>,
  positionFrom: z.enum(['own', 'port', 'none']),
  scans: z.boolean(),
}) satisfies z.ZodType<Radio>;

const connection = z.discriminatedUnion('by', [
  z.object({ by: z.literal('serial'), device: serialDevice, speedBd: oneOf(LINE_SPEEDS_BD) }),
  z.object({ by: z.literal('tcp'), host, port }),
]) satisfies z.ZodType<Connection>;

const modemPiece = z.object({
  kind: z.literal('modem'),
  name,
  radioId: pointer,
  onAirBd: oneOf(ON_AIR_SPEEDS_BD),
  txDelayMs: delay,
  connection,
}) satisfies z.ZodType<Modem>;

const antennaPiece = z.object({
  kind: z.literal('antenna'),
  name,
  onId: pointer,
  bandsMHz: bands,
  gainDbi: within(-30, 40, 'a gain in dBi'),
  heightM: within(0, 1000, 'a height in m'),
}) satisfies z.ZodType<Antenna>;

const nodePiece = z.object({
  kind: z.literal('node'),
  name,
  tag: z.string().trim().toUpperCase().regex(NODE_TAG, 'one to six letters or digits'),
  powerW: watts,
  role: z.enum(['carrier', 'terminal']),
  positionFrom: z.enum(['own', 'none']),
  chargeSwitch: z.boolean(),
}) satisfies z.ZodType<MeshNodePiece>;

const receiverPiece = z.object({
  kind: z.literal('receiver'),
  name,
  speedBd: oneOf(LINE_SPEEDS_BD),
  feedsId: pointer,
}) satisfies z.ZodType<PositionReceiver>;

const cellPiece = z.object({
  kind: z.literal('cell'),
  name,
  capacityAh: within(0.01, 10_000, 'a capacity in Ah'),
  voltageV: within(0.5, 1000, 'a voltage in V'),
  feedsId: pointer,
}) satisfies z.ZodType<BatteryCell>;

/** A piece of equipment, described by its properties, without brands. */
export const piece = z.discriminatedUnion('kind', [
  radioPiece,
  modemPiece,
  antennaPiece,
  nodePiece,
  receiverPiece,
  cellPiece,
]);
export type PieceChange = z.input<typeof piece>;

const withId = <S extends z.ZodRawShape>(of: z.ZodObject<S>) => of.extend({ id: z.uuid() });
/** The same, as it is kept. */
export const keptPiece = z.discriminatedUnion('kind', [
  withId(radioPiece),
  withId(modemPiece),
  withId(antennaPiece),
  withId(nodePiece),
  withId(receiverPiece),
  withId(cellPiece),
]);
export type KeptPieceView = z.output<typeof keptPiece>;

export const MOST_PIECES = 200;
export const EQUIPMENT_FORMAT = 'tombolo-equipment';

/** Equipment as a file; its schema is served at `/equipment/schema`. */
export const equipmentFile = z
  .object({
    format: z.literal(EQUIPMENT_FORMAT, `a file of the format “${EQUIPMENT_FORMAT}”`),
    version: z.literal(1, 'version 1'),
    pieces: z.array(keptPiece).max(MOST_PIECES, `at most ${MOST_PIECES} pieces`),
  })
  .superRefine(({ pieces }, context) => {
    if (new Set(pieces.map(({ id }) => id)).size < pieces.length)
      context.addIssue({ code: 'custom', path: ['pieces'], message: 'two pieces have the same identifier' });
    pieces.forEach((one, n) => {
      const fault = faultOfPointer(one, pieces);
      if (fault) context.addIssue({ code: 'custom', path: ['pieces', n], message: fault });
    });
  });
export type EquipmentFile = z.output<typeof equipmentFile>;

const holder = words(60, 1);
/** A box of a set-up sheet that somebody ticked, or took the tick from. */
export const newTick = z.object({
  id: z.uuid(),
  /** Whose sheet it is: a call sign, or a name. */
  holder,
  line: z.string().regex(/^[a-z-]{1,40}$/),
  /** What the line said then: a tick does not hold for another value. */
  value: words(200),
  done: z.boolean(),
  /** Initials or a name. */
  by: words(30, 1),
});
export type NewTick = z.input<typeof newTick>;

export const tick = newTick.extend({ at: instant });
export type Tick = z.infer<typeof tick>;

/** The last word on each line of one holder's sheet. */
export function ticksOf(ticks: readonly Tick[], whose: string): ReadonlyMap<string, Tick> {
  const last = new Map<string, Tick>();
  for (const one of ticks) if (one.holder === whose) last.set(one.line, one);
  return last;
}
