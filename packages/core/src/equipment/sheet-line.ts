import type { Position } from '../geo/geodesic';
import type { MeshRadio } from '../mesh/radio';

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
