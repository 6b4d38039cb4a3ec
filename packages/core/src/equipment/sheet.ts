import type { Position } from '../geo/geodesic';
import type { MeshRadio } from '../mesh/radio';
import type { KeptPiece } from './piece';
import { nodeSheet } from './node-sheet';
import { radioSheet } from './radio-sheet';
import { modemSheet, receiverSheet } from './small-sheets';

/** Subjects in the order of a walk through the menus of a set; what can destroy it comes before all. */
export const SHEET_SUBJECTS = [
  'before power',
  'position source',
  'modem',
  'addresses',
  'symbol',
  'path',
  'interval',
  'receive channel',
  'mesh',
] as const;
export type SheetSubject = (typeof SHEET_SUBJECTS)[number];

/** One thing to be keyed in, with why, and what it looks like when it is right. */
export interface SheetLine {
  /** The same for every sheet of a kind: ticks and differences go by it. */
  readonly id: string;
  readonly subject: SheetSubject;
  readonly what: string;
  readonly value: string;
  readonly why: string;
  readonly right: string;
}

/** What somebody is going to do with the set. */
export interface SheetPlan {
  /** Call sign with SSID; null for somebody without. */
  readonly call: string | null;
  /** Table and code of the symbol. */
  readonly symbol: string;
  /** Channel for packets; null while nobody has said it. */
  readonly packetMHz: number | null;
  readonly path: readonly string[];
  /** Position reports of the set itself; null for none. */
  readonly reportEveryS: number | null;
  readonly comment: string;
  /** Where it stays; null where it moves, or where that is not known. */
  readonly place: Position | null;
  readonly mesh: { readonly radio: MeshRadio; readonly channels: readonly string[] } | null;
}

/** Everything that has to be keyed into a piece of equipment, in order; nothing for what has no settings. */
export function setUpSheet(piece: KeptPiece, pieces: readonly KeptPiece[], plan: SheetPlan): SheetLine[] {
  const lines = linesOf(piece, pieces, plan);
  return SHEET_SUBJECTS.flatMap((subject) => lines.filter((line) => line.subject === subject));
}

function linesOf(piece: KeptPiece, pieces: readonly KeptPiece[], plan: SheetPlan): SheetLine[] {
  switch (piece.kind) {
    case 'radio':
      return radioSheet(piece, pieces, plan);
    case 'modem':
      return modemSheet(piece, pieces);
    case 'node':
      return nodeSheet(piece, pieces, plan);
    case 'receiver':
      return receiverSheet(piece, pieces);
    case 'antenna':
    case 'cell':
      return [];
  }
}

/** A line that is not the same on two sheets: null where one of them does not have it. */
export interface SheetDifference {
  readonly id: string;
  readonly what: string;
  readonly ours: string | null;
  readonly theirs: string | null;
}

/** Where two sheets for the same set differ, in the order of the first; what only the second has comes last. */
export function sheetDifferences(ours: readonly SheetLine[], theirs: readonly SheetLine[]): SheetDifference[] {
  const their = new Map(theirs.map((line) => [line.id, line]));
  const our = new Set(ours.map(({ id }) => id));
  return [
    ...ours
      .filter(({ id, value }) => their.get(id)?.value !== value)
      .map(({ id, what, value }) => ({ id, what, ours: value, theirs: their.get(id)?.value ?? null })),
    ...theirs.filter(({ id }) => !our.has(id)).map(({ id, what, value }) => ({ id, what, ours: null, theirs: value })),
  ];
}
