import {
  decodeFrame,
  decodeMeshFrame,
  explainInformation,
  explainMeshFrame,
  hexOfOctets,
  parseMonitorLine,
} from '@tombolo/core';
import type { Copy, ExplainedField, FailureView, HeardFilter, PacketDetail, PacketSummary } from '@tombolo/contract';
import type { z } from 'zod';
import type { failureQuery, heardQuery } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { statementsOf, type KeptReception } from './statements';
import { formatPageKey, packetSource, parsePageKey } from './filter';

interface PacketRow {
  id: string;
  first_at: Date;
  source: string;
  destination: string;
  kind: string;
  addressee: string | null;
  summary: string;
}

interface ReceptionRow {
  id: string;
  packet_id: string;
  heard_at: Date;
  bearer_id: string | null;
  import_id: string | null;
  port: number | null;
  how: Copy['how'];
  via: string[];
  words: string;
  line: string;
  snr_db: number | null;
  rssi_dbm: number | null;
  hops: number | null;
}

const PACKET_COLUMNS = 'p.id, p.first_at, p.source, p.destination, p.kind, p.addressee, p.summary';

/** Packets with their copies, newest first. */
export async function listPackets(
  queries: Queries,
  query: z.output<typeof heardQuery>,
): Promise<{ rows: PacketSummary[]; next: string | null }> {
  const parameters: unknown[] = [];
  const source = packetSource(query, parameters);
  let { conditions } = source;
  if (query.before) {
    const { at, id } = parsePageKey(query.before);
    conditions += ` and (${source.at}, ${source.id}) < ($${parameters.push(at)}, $${parameters.push(id)}::bigint)`;
  }
  const packets = await rowsOf<PacketRow>(
    queries,
    `select ${PACKET_COLUMNS} from ${source.from} where ${conditions}
     order by ${source.at} desc, ${source.id} desc limit $${parameters.push(query.limit + 1)}`,
    parameters,
  );
  const page = packets.slice(0, query.limit);
  const last = page.at(-1);
  return {
    rows: await withCopies(queries, page),
    next: packets.length > query.limit && last ? formatPageKey({ at: last.first_at, id: last.id }) : null,
  };
}

async function withCopies(queries: Queries, packets: readonly PacketRow[]): Promise<PacketSummary[]> {
  const receptions = await rowsOf<ReceptionRow>(
    queries,
    `select id, packet_id, heard_at, bearer_id, import_id, port, how, via, words, line, snr_db, rssi_dbm, hops
     from reception where packet_id = any($1::bigint[]) order by heard_at, id`,
    [packets.map((packet) => packet.id)],
  );
  const byPacket = new Map<string, Copy[]>();
  for (const row of receptions) {
    const copies = byPacket.get(row.packet_id) ?? [];
    copies.push({
      id: row.id,
      at: row.heard_at.toISOString(),
      bearerId: row.bearer_id,
      importId: row.import_id,
      port: row.port,
      how: row.how,
      via: row.via,
      words: row.words,
      line: row.line,
      snrDb: row.snr_db,
      rssiDbm: row.rssi_dbm,
      hops: row.hops,
    });
    byPacket.set(row.packet_id, copies);
  }
  const names = await tagsOf(
    queries,
    packets.flatMap(({ source, kind }) => (kind.startsWith('mesh ') ? source : [])),
  );
  return packets.map((packet) => ({
    id: packet.id,
    at: packet.first_at.toISOString(),
    source: packet.source,
    sourceName: names.get(packet.source) ?? null,
    destination: packet.destination,
    kind: packet.kind,
    addressee: packet.addressee,
    summary: packet.summary,
    copies: byPacket.get(packet.id) ?? [],
  }));
}

/** Tags of nodes by number. */
async function tagsOf(queries: Queries, nodes: readonly string[]): Promise<Map<string, string>> {
  if (nodes.length === 0) return new Map();
  const rows = await rowsOf<{ node: string; tag: string }>(
    queries,
    `select node, tag from mesh_node where node = any($1) and tag <> node
     union select config->>'node', config->>'tag' from bearer where config->>'node' = any($1)`,
    [[...new Set(nodes)]],
  );
  return new Map(rows.map(({ node, tag }) => [node, tag]));
}

/** One packet with its octets and each field in words. */
export async function packetDetail(queries: Queries, id: string, own: string | null): Promise<PacketDetail | null> {
  const [packet] = await rowsOf<PacketRow & { info: Buffer }>(
    queries,
    `select ${PACKET_COLUMNS}, p.info from packet p where p.id = $1`,
    [id],
  );
  if (!packet) return null;
  const receptions = await rowsOf<KeptReception>(
    queries,
    'select raw, form, import_id from reception where packet_id = $1 order by heard_at, id',
    [id],
  );
  const [first] = receptions;
  const statements = await statementsOf(queries, receptions, own);
  const [summary] = await withCopies(queries, [packet]);
  const raw = first?.raw ?? Buffer.alloc(0);
  const form = first?.form ?? 'line';
  return {
    ...summary!,
    copies: summary!.copies.map((copy, i) => ({ ...copy, statements: statements[i] ?? [] })),
    rawHex: hexOfOctets(raw),
    form,
    fields: form === 'mesh' ? meshFields(raw) : packetFields(raw, form, packet),
  };
}

function meshFields(raw: Uint8Array): ExplainedField[] {
  const frame = decodeMeshFrame(raw);
  return frame.ok ? explainMeshFrame(frame.value, raw) : [];
}

/** Fields are counted from the start of the raw octets, where the information field stands in them. */
function packetFields(
  raw: Uint8Array,
  form: 'ax25' | 'line',
  { info, destination }: { readonly info: Buffer; readonly destination: string },
): ExplainedField[] {
  const infoAt = infoOffset(raw, form);
  return explainInformation(infoAt === null ? info : raw.subarray(infoAt), destination).map(
    ({ part, from, to, ...field }) => {
      const at = part === 'destination' ? destinationOffset(raw, form) : (infoAt ?? 0);
      return { ...field, from: from + at, to: to + at };
    },
  );
}

const ARROW = 0x3e;

/** Where the destination stands: first in a frame, one octet a character; behind the arrow in a line. */
const destinationOffset = (raw: Uint8Array, form: 'ax25' | 'line'): number =>
  form === 'ax25' ? 0 : Math.max(0, raw.indexOf(ARROW) + 1);

function infoOffset(raw: Uint8Array, form: 'ax25' | 'line'): number | null {
  if (form === 'ax25') {
    const frame = decodeFrame(raw);
    return frame.ok ? raw.length - frame.value.info.length : null;
  }
  const line = parseMonitorLine(raw, { escapes: false });
  return line.ok ? raw.length - line.value.info.length : null;
}

/** What no parser understood, newest first. */
export async function listFailures(
  queries: Queries,
  query: z.output<typeof failureQuery>,
): Promise<{ rows: FailureView[]; next: string | null }> {
  const parameters: unknown[] = [];
  const conditions = ['error is not null'];
  if (query.importId) conditions.push(`import_id = $${parameters.push(query.importId)}::uuid`);
  if (query.bearerId) conditions.push(`bearer_id = $${parameters.push(query.bearerId)}`);
  if (query.before) {
    const { at, id } = parsePageKey(query.before);
    conditions.push(`(heard_at, id) < ($${parameters.push(at)}, $${parameters.push(id)}::bigint)`);
  }
  const rows = await rowsOf<{
    id: string;
    heard_at: Date;
    bearer_id: string | null;
    import_id: string | null;
    raw: Buffer;
    error_at: number;
    error: string;
  }>(
    queries,
    `select id, heard_at, bearer_id, import_id, substring(raw from 1 for 2048) as raw, error_at, error from reception
     where ${conditions.join(' and ')} order by heard_at desc, id desc limit $${parameters.push(query.limit + 1)}`,
    parameters,
  );
  const page = rows.slice(0, query.limit);
  const last = page.at(-1);
  return {
    rows: page.map((row) => ({
      id: row.id,
      at: row.heard_at.toISOString(),
      bearerId: row.bearer_id,
      importId: row.import_id,
      rawHex: hexOfOctets(row.raw),
      offset: row.error_at,
      reason: row.error,
    })),
    next: rows.length > query.limit && last ? formatPageKey({ at: last.heard_at, id: last.id }) : null,
  };
}

/**
 * Receptions of packets of a filter in order of time, a page at a time, so that an export needs little memory. Frames of a mesh are no
 * packets of AX.25: capture files and monitor lines have no place for them.
 */
export async function* eachReception(
  queries: Queries,
  filter: HeardFilter,
): AsyncGenerator<{ heard_at: Date; raw: Buffer; form: 'ax25' | 'line'; line: string; port: number | null }> {
  let after: { heard_at: Date; id: string } | null = null;
  for (;;) {
    const parameters: unknown[] = [];
    const source = packetSource(filter, parameters);
    let conditions = `${source.conditions} and r.form <> 'mesh'`;
    if (filter.bearerId) conditions += ` and r.bearer_id = $${parameters.push(filter.bearerId)}`;
    if (filter.importId) conditions += ` and r.import_id = $${parameters.push(filter.importId)}::uuid`;
    if (after)
      conditions += ` and (r.heard_at, r.id) > ($${parameters.push(after.heard_at)}, $${parameters.push(after.id)}::bigint)`;
    const rows: {
      id: string;
      heard_at: Date;
      raw: Buffer;
      form: 'ax25' | 'line';
      line: string;
      port: number | null;
    }[] = await rowsOf(
      queries,
      `select r.id, r.heard_at, r.raw, r.form, r.line, r.port from ${source.from} join reception r on r.packet_id = p.id
         where ${conditions} order by r.heard_at, r.id limit 1000`,
      parameters,
    );
    yield* rows;
    const last = rows.at(-1);
    if (rows.length < 1000 || !last) return;
    after = { heard_at: last.heard_at, id: last.id };
  }
}
