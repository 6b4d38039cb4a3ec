import type { HeardHow, PathHop } from '../aprs/path';

/**
 * The ladder of evidence. A rung is reached only by evidence of that kind; the kinds beside the
 * ladder tell how it ended or what we ourselves did.
 */
export const RUNGS = [
  'drafted',
  'queued',
  'sent',
  'relayed',
  'accepted',
  'handed on',
  'delivered',
  'answered',
] as const;
export type Rung = (typeof RUNGS)[number];

export const EVIDENCE_KINDS = [
  ...RUNGS,
  /** The frame was about to be handed to the bearer; recorded before it was. */
  'intended',
  /** The station stopped between intent and hand-over: it may or may not have been transmitted. */
  'interrupted',
  /** The bearer could not take the frame. */
  'not taken',
  'refused',
  'expired',
  /** Its deadline passed: no further try was begun. */
  'overdue',
  'cancelled',
  /** For arrived items: what we answered to the sender. */
  'acknowledged',
  'rejected',
  'heard again',
  /** A part of a longer text did not come: the addressee asks for it once more, or we do. */
  'asked again',
  /** An answer that was due and was not sent: for want of air time, or because it came too late. */
  'left out',
  /** It is due and does not fit into the hour's air time yet. */
  'waits',
] as const;
export type EvidenceKind = (typeof EVIDENCE_KINDS)[number];

/** The road that a copy of our own packet took, as far as the copy tells. */
export interface RecordedRoad {
  /** `mesh`: repeated by nodes, which never sign. */
  readonly how: HeardHow | 'mesh';
  readonly hops: readonly PathHop[];
  /** Elements that nobody had used up when it was heard. */
  readonly open: readonly string[];
  /** The gateway that put it on the internet. */
  readonly gate: string | null;
}

export interface Evidence {
  /** Identity of the record; the same record twice counts once. */
  readonly id: string;
  readonly kind: EvidenceKind;
  /** UTC, ISO 8601 with milliseconds. */
  readonly at: string;
  readonly legId: string | null;
  /** Which attempt of the leg it belongs to, counted from 1. */
  readonly attempt: number | null;
  readonly bearer: string | null;
  /** Who said it: the station whose packet, or the system whose answer, is the proof. */
  readonly by: string | null;
  /** Stations that certainly carried the packet, in order. */
  readonly via: readonly string[];
  /** Of a repeat that was heard: its road, with hops that did not sign. Absent where a bearer knows no path. */
  readonly road?: RecordedRoad | null;
  /** The packet or line that proves it, in monitor form. */
  readonly raw: string | null;
  readonly note: string | null;
  /** Until when it makes sense to wait for the next rung. */
  readonly expectBy: string | null;
}

export const isRung = (kind: EvidenceKind): kind is Rung => (RUNGS as readonly string[]).includes(kind);

/** Position on the ladder, 0 for `drafted`. */
export const rungIndex = (rung: Rung): number => RUNGS.indexOf(rung);

/** In the order of what happened, whatever the order of arrival; each record once. */
export function inOrder(evidence: readonly Evidence[]): Evidence[] {
  const byId = new Map<string, Evidence>();
  for (const record of evidence) if (!byId.has(record.id)) byId.set(record.id, record);
  return [...byId.values()].sort((a, b) =>
    a.at < b.at ? -1 : a.at > b.at ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0,
  );
}

/** The hops that a record of a repeat tells of. */
export const hopsOfRecord = ({ road, via }: Evidence): readonly PathHop[] =>
  road?.hops ?? via.map((call) => ({ call, certain: true }));
