import type { EvidenceRecord } from '@tombolo/contract';
import type { EvidenceKind, RecordedRoad } from '@tombolo/core';
import { rowsOf, storable, type Queries } from './database';

export interface NewEvidence {
  /** Tells what the record is about, so that recording it twice keeps one. */
  readonly key: string;
  /** Null for what is on record about a transmission that belongs to no item. */
  readonly itemId: string | null;
  readonly legId: string | null;
  readonly attempt?: number | null;
  readonly kind: EvidenceKind;
  readonly at: Date;
  readonly bearer?: string | null;
  readonly by?: string | null;
  readonly via?: readonly string[];
  readonly road?: RecordedRoad;
  readonly raw?: string | null;
  readonly note?: string | null;
  readonly expectBy?: Date | null;
  readonly packetId?: string | null;
}

/** Appends evidence; true when it was new. Evidence is never changed or removed. */
export async function addEvidence(queries: Queries, evidence: NewEvidence): Promise<boolean> {
  const rows = await rowsOf(
    queries,
    `insert into evidence (key, item_id, leg_id, attempt, kind, at, bearer, by_whom, via, raw, note, expect_by, packet_id, road)
     values ($1,$2,$3,$4,$5,$6,$7,$8,$9,$10,$11,$12,$13,$14) on conflict (key) do nothing returning id`,
    [
      evidence.key,
      evidence.itemId,
      evidence.legId,
      evidence.attempt ?? null,
      evidence.kind,
      evidence.at,
      evidence.bearer ?? null,
      evidence.by ?? null,
      evidence.via ?? [],
      evidence.raw == null ? null : storable(evidence.raw),
      evidence.note == null ? null : storable(evidence.note),
      evidence.expectBy ?? null,
      evidence.packetId ?? null,
      evidence.road ? JSON.stringify(evidence.road) : null,
    ],
  );
  return rows.length > 0;
}

interface EvidenceRow {
  id: string;
  item_id: string | null;
  leg_id: string | null;
  attempt: number | null;
  kind: EvidenceKind;
  at: Date;
  bearer: string | null;
  by_whom: string | null;
  via: string[];
  raw: string | null;
  note: string | null;
  expect_by: Date | null;
  packet_id: string | null;
  road: RecordedRoad | null;
}

/** All evidence of some items, by item. */
export const evidenceOf = async (queries: Queries, itemIds: readonly string[]) =>
  groupedBy(
    'item_id',
    await rowsOf<EvidenceRow>(queries, 'select * from evidence where item_id = any($1::uuid[]) order by at, id', [
      itemIds,
    ]),
  );

/** All evidence of some transmissions that belong to no item, by transmission. */
export const evidenceByItself = async (queries: Queries, legIds: readonly string[]) =>
  groupedBy(
    'leg_id',
    await rowsOf<EvidenceRow>(
      queries,
      'select * from evidence where item_id is null and leg_id = any($1::uuid[]) order by at, id',
      [legIds],
    ),
  );

function groupedBy(of: 'item_id' | 'leg_id', rows: readonly EvidenceRow[]): Map<string, EvidenceRecord[]> {
  const grouped = new Map<string, EvidenceRecord[]>();
  for (const row of rows) {
    const record: EvidenceRecord = {
      id: row.id,
      kind: row.kind,
      at: row.at.toISOString(),
      legId: row.leg_id,
      attempt: row.attempt,
      bearer: row.bearer,
      by: row.by_whom,
      via: row.via,
      road: row.road,
      raw: row.raw,
      note: row.note,
      expectBy: row.expect_by?.toISOString() ?? null,
      packetId: row.packet_id,
    };
    const key = row[of]!;
    const records = grouped.get(key);
    if (records) records.push(record);
    else grouped.set(key, [record]);
  }
  return grouped;
}

const REPEATERS_FOR = '24 hours';

/** Digipeaters that were lately the first to repeat one of our own packets: those that hear us. */
export async function repeatersOfOurs(queries: Queries): Promise<Set<string>> {
  const rows = await rowsOf<{ call: string }>(
    queries,
    `select distinct via[1] as call from evidence
     where kind = 'relayed' and cardinality(via) > 0 and at > now() - interval '${REPEATERS_FOR}'`,
    [],
  );
  return new Set(rows.map((row) => row.call));
}
