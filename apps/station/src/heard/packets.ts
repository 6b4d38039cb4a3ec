import {
  decodeFrame,
  decodeMeshFrame,
  explainInformation,
  explainLinkFrame,
  explainMeshFrame,
  hexOfOctets,
  innermostPacket,
  parseMonitorLine,
} from '@tombolo/core';
import type { Copy, ExplainedField, FailureView, PacketDetail, PacketSummary } from '@tombolo/contract';
import type { z } from 'zod';
import type { failureQuery, heardQuery } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { receptionsOf, timeOfId } from '../store/moments';
import { channelsOfFilter, packetConditions } from './filter';
import { keptPacket, statementsOf, told, type KeptReception } from './statements';

interface PacketRow {
  id: string;
  source: string;
  destination: string;
  kind: string;
  addressee: string | null;
  summary: string;
}

interface ReceptionRow extends KeptReception {
  id: string;
  packet_id: string;
  bearer_id: string | null;
  port: number | null;
  frequency_hz: string | null;
  snr_db: number | null;
  rssi_dbm: number | null;
}

const PACKET_COLUMNS = 'p.id, p.source, p.destination, p.kind, p.addressee, p.summary';
const COPY_COLUMNS =
  'r.id, r.packet_id, r.raw, r.form, r.snr_db, r.rssi_dbm, c.bearer_id, c.import_id, c.port, c.frequency_hz';

/** Packets with their copies, newest first. */
export async function listPackets(
  queries: Queries,
  query: z.output<typeof heardQuery>,
): Promise<{ rows: PacketSummary[]; next: string | null }> {
  const channels = await channelsOfFilter(queries, query);
  const packets = channels === null ? await pageOfAll(queries, query) : await pageOfChannels(queries, query, channels);
  const page = packets.slice(0, query.limit);
  const last = page.at(-1);
  return {
    rows: await withCopies(queries, page),
    next: packets.length > query.limit && last ? last.place : null,
  };
}

/** A packet, and where it stands in its list. */
type PlacedRow = PacketRow & { place: string };

function pageOfAll(queries: Queries, query: z.output<typeof heardQuery>): Promise<PlacedRow[]> {
  const parameters: unknown[] = [];
  const conditions = ['true', ...packetConditions(query, parameters)];
  if (query.before) conditions.push(`p.id < $${parameters.push(query.before)}::bigint`);
  return rowsOf(
    queries,
    `select ${PACKET_COLUMNS}, p.id as place from packet p where ${conditions.join(' and ')}
     order by p.id desc limit $${parameters.push(query.limit + 1)}`,
    parameters,
  );
}

/** In the order in which the bearer or the recording brought them: each of its channels has an index of that order. */
function pageOfChannels(
  queries: Queries,
  query: z.output<typeof heardQuery>,
  channels: readonly number[],
): Promise<PlacedRow[]> {
  const parameters: unknown[] = [channels];
  const conditions = ['r.channel_id = c.id', 'r.opens_here', ...packetConditions(query, parameters)];
  if (query.before) conditions.push(`r.id < $${parameters.push(query.before)}::bigint`);
  const limit = `$${parameters.push(query.limit + 1)}`;
  return rowsOf(
    queries,
    `select x.* from unnest($1::int[]) as c (id) cross join lateral
       (select ${PACKET_COLUMNS}, r.id as place from reception r join packet p on p.id = r.packet_id
        where ${conditions.join(' and ')} order by r.id desc limit ${limit}) x
     order by x.place desc limit ${limit}`,
    parameters,
  );
}

async function copiesOf(queries: Queries, packetIds: readonly string[]): Promise<Map<string, ReceptionRow[]>> {
  const rows = await rowsOf<ReceptionRow>(
    queries,
    `select ${COPY_COLUMNS} from reception r join channel c on c.id = r.channel_id
     where r.packet_id = any($1::bigint[]) and r.id between $2 and $3 order by r.id`,
    [packetIds, ...receptionsOf(packetIds)],
  );
  const byPacket = new Map<string, ReceptionRow[]>();
  for (const row of rows) {
    const copies = byPacket.get(row.packet_id);
    if (copies) copies.push(row);
    else byPacket.set(row.packet_id, [row]);
  }
  return byPacket;
}

function copyOf(row: ReceptionRow): Copy {
  const { how, via, words, line, hops } = told(row);
  return {
    id: row.id,
    at: timeOfId(row.id).toISOString(),
    bearerId: row.bearer_id,
    importId: row.import_id,
    port: row.port,
    frequencyHz: row.frequency_hz === null ? null : Number(row.frequency_hz),
    how,
    via,
    words,
    line,
    snrDb: row.snr_db,
    rssiDbm: row.rssi_dbm,
    hops,
  };
}

async function withCopies(
  queries: Queries,
  packets: readonly PacketRow[],
  known?: ReadonlyMap<string, readonly ReceptionRow[]>,
): Promise<PacketSummary[]> {
  const copies =
    known ??
    (await copiesOf(
      queries,
      packets.map(({ id }) => id),
    ));
  const names = await tagsOf(
    queries,
    packets.flatMap(({ source, kind }) => (kind.startsWith('mesh ') ? source : [])),
  );
  return packets.map((packet) => ({
    id: packet.id,
    at: timeOfId(packet.id).toISOString(),
    source: packet.source,
    sourceName: names.get(packet.source) ?? null,
    destination: packet.destination,
    kind: packet.kind,
    addressee: packet.addressee,
    summary: packet.summary,
    copies: (copies.get(packet.id) ?? []).map(copyOf),
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
  const [packet] = await rowsOf<PacketRow>(queries, `select ${PACKET_COLUMNS} from packet p where p.id = $1`, [id]);
  if (!packet) return null;
  const copies = await copiesOf(queries, [id]);
  const receptions = copies.get(id) ?? [];
  const [first] = receptions;
  const statements = await statementsOf(queries, receptions, own);
  const [summary] = await withCopies(queries, [packet], copies);
  const raw = first?.raw ?? Buffer.alloc(0);
  const form = first?.form ?? 'line';
  return {
    ...summary!,
    copies: summary!.copies.map((copy, i) => ({ ...copy, statements: statements[i] ?? [] })),
    rawHex: hexOfOctets(raw),
    form,
    fields:
      form === 'mesh'
        ? meshFields(raw)
        : packet.kind === 'connection'
          ? explainLinkFrame(raw)
          : first
            ? packetFields(first, form)
            : [],
  };
}

function meshFields(raw: Uint8Array): ExplainedField[] {
  const frame = decodeMeshFrame(raw);
  return frame.ok ? explainMeshFrame(frame.value, raw) : [];
}

/** Fields are counted from the start of the raw octets, where the information field stands in them. */
function packetFields(first: KeptReception, form: 'ax25' | 'line'): ExplainedField[] {
  const { raw } = first;
  const packet = keptPacket(first);
  if (!packet) return [];
  const { info, destination } = innermostPacket(packet).packet;
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
  const conditions = ['r.error is not null'];
  const channels = await channelsOfFilter(queries, query);
  if (channels !== null) conditions.push(`r.channel_id = any($${parameters.push(channels)}::int[])`);
  if (query.before) conditions.push(`r.id < $${parameters.push(query.before)}::bigint`);
  const rows = await rowsOf<{
    id: string;
    bearer_id: string | null;
    import_id: string | null;
    raw: Buffer;
    error_at: number;
    error: string;
  }>(
    queries,
    `select r.id, c.bearer_id, c.import_id, substring(r.raw from 1 for 2048) as raw, r.error_at, r.error
     from reception r join channel c on c.id = r.channel_id
     where ${conditions.join(' and ')} order by r.id desc limit $${parameters.push(query.limit + 1)}`,
    parameters,
  );
  const page = rows.slice(0, query.limit);
  const last = page.at(-1);
  return {
    rows: page.map((row) => ({
      id: row.id,
      at: timeOfId(row.id).toISOString(),
      bearerId: row.bearer_id,
      importId: row.import_id,
      rawHex: hexOfOctets(row.raw),
      offset: row.error_at,
      reason: row.error,
    })),
    next: rows.length > query.limit && last ? last.id : null,
  };
}
