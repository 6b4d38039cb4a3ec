import { piece, type KeptPieceView, type PieceChange } from '@tombolo/contract';
import { readDecimal, type BandMHz, type PieceKind } from '@tombolo/core';
import { z } from 'zod';
import { PIECE_FIELDS, type PieceField } from './piece-fields';

export type Written = Readonly<Record<string, string | boolean>>;

/** Whether a question is asked, by what was answered before. */
export const isAsked = ({ when }: PieceField, written: Written): boolean => !when || written[when.key] === when.is;

/** `144-148, 430-450`; what is no band has numbers that are none, so that the schema complains. */
const bandsOf = (text: string): BandMHz[] =>
  text
    .split(/;|,\s+/)
    // A comma without a space may stand within a number, but not where it leaves two bands in one.
    .flatMap((part) => (part.split(/[-–]/).length > 2 ? part.split(',') : [part]))
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .map((part) => {
      const [fromMHz = NaN, toMHz = NaN] = part.split(/[-–]/).map(readDecimal);
      return { fromMHz, toMHz };
    });
const bandsWords = (bands: readonly BandMHz[]): string =>
  bands.map(({ fromMHz, toMHz }) => `${fromMHz}-${toMHz}`).join(', ');

function valueOf({ sort, key }: PieceField, written: Written): unknown {
  const value = written[key] ?? '';
  if (typeof value === 'boolean') return value;
  if (sort === 'number' || sort === 'number-of') return readDecimal(value);
  if (sort === 'bands') return bandsOf(value);
  if (sort === 'owner') return value === '' ? null : value;
  return value;
}

/** What the form means; the contract's schema judges it. */
function pieceOf(kind: PieceKind, written: Written): unknown {
  const made: Record<string, unknown> = { kind };
  for (const field of PIECE_FIELDS[kind]) {
    if (!isAsked(field, written)) continue;
    const [first = '', second] = field.key.split('_');
    if (second === undefined) made[first] = valueOf(field, written);
    else made[first] = { ...(made[first] as object | undefined), [second]: valueOf(field, written) };
  }
  if (kind === 'radio') {
    delete made.hasModem;
    made.modem ??= null;
    made.positionFrom ??= 'none';
  }
  return made;
}

/** A form of which each complaint stands at its field. */
export const pieceForm = (kind: PieceKind) =>
  z.record(z.string(), z.union([z.string(), z.boolean()])).transform((written, context): PieceChange => {
    const read = piece.safeParse(pieceOf(kind, written));
    if (read.success) return read.data;
    for (const { path, message } of read.error.issues) {
      const steps = path.filter((step) => typeof step === 'string');
      const keys = PIECE_FIELDS[kind].map(({ key }) => key);
      const key = keys.find((one) => one === steps.slice(0, 2).join('_')) ?? keys.find((one) => one === steps[0]);
      context.addIssue({ code: 'custom', path: [key ?? 'name'], message });
    }
    return z.NEVER;
  });

/** The form of a piece as it is kept; with what one begins with where there is none yet. */
export function writtenOf(kind: PieceKind, kept: KeptPieceView | null): Record<string, string | boolean> {
  const set = kept as Readonly<Record<string, unknown>> | null;
  return Object.fromEntries(
    PIECE_FIELDS[kind].map((field) => {
      const [first = '', second] = field.key.split('_');
      const at = set?.[first];
      const value = second === undefined ? at : (at as Record<string, unknown> | null | undefined)?.[second];
      if (field.key === 'hasModem') return [field.key, set?.modem !== null && set?.modem !== undefined];
      if (kept === null || (value === undefined && second !== undefined)) return [field.key, field.start];
      if (typeof value === 'boolean') return [field.key, value];
      if (field.sort === 'bands') return [field.key, bandsWords((value ?? []) as BandMHz[])];
      return [field.key, value === null || value === undefined ? '' : String(value)];
    }),
  );
}
