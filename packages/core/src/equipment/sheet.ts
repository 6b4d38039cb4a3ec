import type { KeptPiece } from './piece';
import { nodeSheet } from './node-sheet';
import { radioSheet } from './radio-sheet';
import { SHEET_SUBJECTS, type SheetLine, type SheetPlan } from './sheet-line';
import { modemSheet, receiverSheet } from './small-sheets';

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
