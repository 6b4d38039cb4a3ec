import { COPY_WINDOW_MS, withinCopyWindow } from '@tombolo/core';
import { rowsOf, storable, type Queries } from '../store/database';
import { INGEST_LOCK } from '../store/locks';
import type { Understood } from './understand';

/** A reception as stored: which packet it is a copy of, and whether it was the first. */
export interface Stored {
  readonly understood: Understood;
  readonly receptionId: string;
  readonly packetId: string | null;
  readonly isNewPacket: boolean;
}

/**
 * Stores a batch inside the caller's transaction: joins copies to packets inside the window, appends receptions.
 * Five statements, whatever the size of the batch.
 */
export async function storeHeard(queries: Queries, batch: readonly Understood[], recordedAt: Date): Promise<Stored[]> {
  if (batch.length === 0) return [];
  await queries.query('select pg_advisory_xact_lock($1)', [INGEST_LOCK]);
  const known = await knownPackets(queries, batch);
  const receptionIds = await reserve(queries, 'reception_id_seq', batch.length);
  const fresh: { understood: Understood; index: number }[] = [];
  const joined = batch.map((understood, index): Candidate | null => {
    if (!understood.identity) return null;
    const key = understood.identity.toString('latin1');
    const candidates = known.get(key) ?? [];
    const found = candidates.find((packet) => withinCopyWindow(packet.firstAtMs, understood.heard.heardAtMs));
    if (found) return found;
    const packet = { place: { fresh: fresh.length }, firstAtMs: understood.heard.heardAtMs };
    fresh.push({ understood, index });
    known.set(key, [...candidates, packet]);
    return packet;
  });
  const packetIds = await reserve(queries, 'packet_id_seq', fresh.length);
  await insertPackets(
    queries,
    fresh.map(({ understood }) => understood),
    packetIds,
  );

  const firstOf = new Set(fresh.map(({ index }) => index));
  const stored = batch.map((understood, i): Stored => {
    const place = joined[i]?.place;
    const packetId = !place ? null : 'fresh' in place ? packetIds[place.fresh]! : place.id;
    return { understood, receptionId: receptionIds[i]!, packetId, isNewPacket: firstOf.has(i) };
  });
  await insertReceptions(queries, stored, recordedAt);
  await noteOrigins(
    queries,
    stored.map((row, i) => ({ row, firstAtMs: joined[i]?.firstAtMs ?? 0 })),
  );
  return stored;
}

/** Which link and which recording brought a packet: what the log is filtered by. */
async function noteOrigins(queries: Queries, rows: readonly { row: Stored; firstAtMs: number }[]): Promise<void> {
  const seen = new Map<string, { origin: string; firstAtMs: number; packetId: string }>();
  for (const { row, firstAtMs } of rows) {
    const { bearerId, importId } = row.understood.heard;
    const { packetId } = row;
    if (packetId === null) continue;
    for (const origin of [bearerId, importId])
      if (origin !== null) seen.set(`${origin}/${packetId}`, { origin, firstAtMs, packetId });
  }
  const origins = [...seen.values()];
  if (origins.length === 0) return;
  await queries.query(
    `insert into heard_on (origin, first_at, packet_id)
     select * from unnest($1::text[], $2::timestamptz[], $3::bigint[]) on conflict do nothing`,
    [origins.map((o) => o.origin), origins.map((o) => new Date(o.firstAtMs)), origins.map((o) => o.packetId)],
  );
}

/** A packet that a reception may be a copy of: stored already, or new in this batch. */
interface Candidate {
  readonly place: { readonly id: string } | { readonly fresh: number };
  readonly firstAtMs: number;
}

async function knownPackets(queries: Queries, batch: readonly Understood[]): Promise<Map<string, Candidate[]>> {
  const identities: Buffer[] = [];
  let earliest = Infinity;
  let latest = -Infinity;
  for (const { identity, heard } of batch) {
    if (!identity) continue;
    identities.push(identity);
    earliest = Math.min(earliest, heard.heardAtMs);
    latest = Math.max(latest, heard.heardAtMs);
  }
  const known = new Map<string, Candidate[]>();
  if (identities.length === 0) return known;
  const rows = await rowsOf<{ id: string; identity: Buffer; first_at: Date }>(
    queries,
    `select id, identity, first_at from packet
     where identity = any($1::bytea[]) and first_at between $2 and $3 order by first_at`,
    [identities, new Date(earliest - COPY_WINDOW_MS), new Date(latest + COPY_WINDOW_MS)],
  );
  for (const row of rows) {
    const key = row.identity.toString('latin1');
    const packet = { place: { id: row.id }, firstAtMs: row.first_at.getTime() };
    const packets = known.get(key);
    if (packets) packets.push(packet);
    else known.set(key, [packet]);
  }
  return known;
}

async function reserve(queries: Queries, sequence: string, count: number): Promise<string[]> {
  if (count === 0) return [];
  const rows = await rowsOf<{ id: string }>(
    queries,
    `select nextval('${sequence}') as id from generate_series(1, $1)`,
    [count],
  );
  return rows.map((row) => row.id);
}

async function insertPackets(queries: Queries, packets: readonly Understood[], ids: readonly string[]): Promise<void> {
  if (packets.length === 0) return;
  await queries.query(
    `insert into packet (id, identity, first_at, source, destination, kind, addressee, summary, info)
     select * from unnest($1::bigint[], $2::bytea[], $3::timestamptz[], $4::text[], $5::text[], $6::text[], $7::text[], $8::text[], $9::bytea[])`,
    [
      ids,
      packets.map((u) => u.identity),
      packets.map((u) => new Date(u.heard.heardAtMs)),
      packets.map((u) => u.head!.source),
      packets.map((u) => u.head!.destination),
      packets.map((u) => u.kind),
      packets.map((u) => (u.head!.addressee === null ? null : storable(u.head!.addressee))),
      packets.map((u) => storable(u.summary)),
      packets.map((u) => Buffer.from(u.head!.info)),
    ],
  );
}

async function insertReceptions(queries: Queries, stored: readonly Stored[], recordedAt: Date): Promise<void> {
  const of = <T>(pick: (row: Stored) => T) => stored.map(pick);
  await queries.query(
    `insert into reception (id, packet_id, bearer_id, import_id, port, heard_at, recorded_at, form, raw, how, via, words, line, error_at, error,
                            snr_db, rssi_dbm, hops)
     select r.id, r.packet_id, r.bearer_id, r.import_id, r.port, r.heard_at, $14, r.form, r.raw, r.how,
            case when r.via = '' then '{}'::text[] else string_to_array(r.via, ',') end, r.words, r.line, r.error_at, r.error,
            r.snr_db, r.rssi_dbm, r.hops
     from unnest($1::bigint[], $2::bigint[], $3::text[], $4::uuid[], $5::int[], $6::timestamptz[], $7::text[], $8::bytea[],
                 $9::text[], $10::text[], $11::text[], $12::text[], $13::int[], $15::text[], $16::float4[], $17::float4[], $18::int[])
       as r (id, packet_id, bearer_id, import_id, port, heard_at, form, raw, how, via, words, line, error_at, error,
             snr_db, rssi_dbm, hops)`,
    [
      of((s) => s.receptionId),
      of((s) => s.packetId),
      of((s) => s.understood.heard.bearerId),
      of((s) => s.understood.heard.importId),
      of((s) => s.understood.heard.port),
      of((s) => new Date(s.understood.heard.heardAtMs)),
      of((s) => s.understood.heard.form),
      of((s) => Buffer.from(s.understood.heard.raw)),
      of(({ understood: { path, mesh } }) => path?.how ?? (mesh ? (mesh.hops === 0 ? 'direct' : 'relayed') : null)),
      of((s) => s.understood.path?.via.join(',') ?? ''),
      of((s) => s.understood.words),
      of((s) => storable(s.understood.line)),
      of((s) => s.understood.error?.at ?? null),
      recordedAt,
      of((s) => (s.understood.error ? storable(s.understood.error.reason) : null)),
      of((s) => s.understood.heard.signal?.snrDb ?? null),
      of((s) => s.understood.heard.signal?.rssiDbm ?? null),
      of((s) => s.understood.mesh?.hops ?? null),
    ],
  );
}
