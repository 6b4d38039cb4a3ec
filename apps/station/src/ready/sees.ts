import {
  carriageOf,
  locksOf,
  ownStation,
  sendsPackets,
  transmitLocks,
  type BearerView,
  type PositionNow,
  type Settings,
} from '@tombolo/contract';
import { decodeInformation, decodeMeshFrame, elementForm, REGIONS, type StationSees } from '@tombolo/core';
import { lookAtInbox } from '../arrivals/inbox';
import { listPieces } from '../equipment/pieces';
import { meshConfigs } from '../ingest/mesh/config';
import { openFrame } from '../ingest/mesh/open';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt } from '../store/moments';
import { lastUnacknowledged, writtenToAnother } from './texts';

const OCTETS_MS = 10 * 60_000;
const GATEWAY_MS = 30 * 60_000;
const LATELY_MS = 30 * 60_000;
const MESH_MS = 3_600_000;
const DAY_MS = 24 * 3_600_000;
/** Receptions that were not understood, of which as many are looked at. */
const MOST_LOOKED_AT = 200;

/** Lines of text that people can read: what a modem says that waits for commands. */
const READABLE = /^[\t\r\n\x20-\x7e]+$/;

/** What the station can say of itself now, for the modem that is asked for, or the first that could send. */
export async function stationSees(
  queries: Queries,
  settings: Settings,
  bearers: readonly BearerView[],
  position: PositionNow,
  bearerId: string | undefined,
  now: number,
): Promise<StationSees> {
  const modems = bearers.filter(({ config }) => sendsPackets(config));
  const modem = modems.find(({ id }) => id === bearerId) ?? modems.find(({ enabled }) => enabled) ?? modems[0];
  const carriage = modem && carriageOf(modem.config);
  const path = carriage?.what === 'packets' ? carriage.path : [];
  const mesh = bearers.find(({ config }) => carriageOf(config).what === 'texts');
  const meshCarriage = mesh && carriageOf(mesh.config);
  const inbox = await lookAtInbox(queries, { name: '', kind: 'text', text: '' }, settings);
  const tunedHz = modem?.tuned?.frequencyHz ?? null;
  return {
    now: new Date(now).toISOString(),
    licenceConfirmed: settings.licenceConfirmed,
    locks: modem ? locksOf(modem.config.kind, settings) : transmitLocks(settings),
    held: settings.heldSince !== null,
    modem: modem
      ? {
          name: modem.name,
          enabled: modem.enabled,
          up: modem.state.link === 'up',
          reason: modem.state.reason,
          ...(await broughtLately(queries, modem.id, now)),
          tunedMHz: tunedHz === null ? null : tunedHz / 1e6,
          load: modem.load,
          path,
        }
      : null,
    regionMHz: REGIONS.find(({ id }) => id === settings.region)?.packetMHz ?? null,
    named: await heardLast(
      queries,
      path.filter((element) => elementForm(element) === 'station'),
    ),
    positionKnown: position.position !== null,
    receiver: position.receiver,
    anyScans: await anySetScans(queries),
    lastText: await lastUnacknowledged(queries, now),
    writtenToAnother: await writtenToAnother(queries, ownStation(settings), now),
    lastSession: await lastSessionCutShort(queries, bearers, now),
    ...(await ownPositions(queries)),
    ownRepeatedAt: await lastEvidence(queries, `kind = 'relayed' and at > $1`, [new Date(now - LATELY_MS)]),
    gatewayHeardAt: await gatewayHeard(queries, now),
    room: inbox.room,
    mesh: mesh
      ? {
          up: mesh.state.link === 'up',
          reason: mesh.state.reason,
          upSince: mesh.state.link === 'up' ? mesh.state.since : null,
          regionSet: meshCarriage?.what === 'texts' && meshCarriage.radio !== null,
          ...(await heardOnMesh(queries, mesh.id, now)),
        }
      : null,
  };
}

const isoOf = (at: Date | null | undefined): string | null => at?.toISOString() ?? null;

/** What came from a modem lately: frames, and of what was none, how much reads as text. */
async function broughtLately(queries: Queries, bearerId: string, now: number) {
  const since = firstIdAt(now - OCTETS_MS);
  const [counts] = await rowsOf<{ frames: number }>(
    queries,
    `select count(*)::int as frames from reception r join channel c on c.id = r.channel_id
     where c.bearer_id = $1 and r.id > $2 and r.error is null`,
    [bearerId, since],
  );
  const wrong = await rowsOf<{ raw: Buffer }>(
    queries,
    `select substring(r.raw from 1 for 256) as raw from reception r join channel c on c.id = r.channel_id
     where c.bearer_id = $1 and r.id > $2 and r.error is not null order by r.id desc limit $3`,
    [bearerId, since, MOST_LOOKED_AT],
  );
  const lines = wrong.filter(({ raw }) => READABLE.test(raw.toString('latin1'))).length;
  return { frames: counts?.frames ?? 0, lines, garbled: wrong.length - lines };
}

/** How the last session of the day ended; null where it was held to its end, or stopped by hand. */
async function lastSessionCutShort(
  queries: Queries,
  bearers: readonly BearerView[],
  now: number,
): Promise<StationSees['lastSession']> {
  const [last] = await rowsOf<{ bearer_id: string; ended_at: Date; problem: string | null }>(
    queries,
    `select bearer_id, ended_at, problem from session_run where ended_at > $1 order by ended_at desc limit 1`,
    [new Date(now - DAY_MS)],
  );
  if (!last || last.problem === null) return null;
  const name = bearers.find(({ id }) => id === last.bearer_id)?.name ?? last.bearer_id;
  return { name, at: last.ended_at.toISOString(), problem: last.problem };
}

/** Of the equipment: a set that scans leaves the packet channel at times. */
async function anySetScans(queries: Queries): Promise<boolean | null> {
  const sets = (await listPieces(queries)).flatMap((piece) => (piece.kind === 'radio' ? [piece.scans] : []));
  return sets.length === 0 ? null : sets.includes(true);
}

/** Packets of other nodes that came over a bearer of the mesh lately, by whether a channel of this station opens them. */
async function heardOnMesh(queries: Queries, bearerId: string, now: number) {
  const config = (await meshConfigs(queries)).get(bearerId);
  const rows = await rowsOf<{ raw: Buffer }>(
    queries,
    `select r.raw from reception r join channel c on c.id = r.channel_id
     where c.bearer_id = $1 and r.id > $2 and r.error is null order by r.id desc limit $3`,
    [bearerId, firstIdAt(now - MESH_MS), MOST_LOOKED_AT],
  );
  const counted = { readable: 0, sealed: 0 };
  for (const { raw } of config ? rows : []) {
    const frame = decodeMeshFrame(raw);
    if (!frame.ok || frame.value.sender === config!.node) continue;
    counted[openFrame(config!, frame.value).content === null ? 'sealed' : 'readable']++;
  }
  const [others] = await rowsOf<{ n: number }>(
    queries,
    'select count(*)::int as n from mesh_node where bearer_id = $1 and node not in ($2, tag)',
    [bearerId, config?.node ?? ''],
  );
  return { heard: counted, nodes: others!.n };
}

async function heardLast(queries: Queries, calls: readonly string[]) {
  const rows = await rowsOf<{ call: string; last_at: Date }>(
    queries,
    'select call, last_at from station where call = any($1::text[])',
    [calls],
  );
  return calls.map((call) => ({ call, heardAt: isoOf(rows.find((row) => row.call === call)?.last_at) }));
}

const lastEvidence = async (
  queries: Queries,
  condition: string,
  parameters: unknown[] = [],
): Promise<string | null> => {
  const [row] = await rowsOf<{ at: Date | null }>(
    queries,
    `select max(at) as at from evidence where ${condition}`,
    parameters,
  );
  return isoOf(row?.at);
};

/** Transmissions that told where we are, not what else is where. */
const OF_POSITION = `item_id is null and role = 'convey' and (detail is null or detail ? 'emergency')`;

/** When a position of ours went out and was heard repeated, and how exact the last one was. */
async function ownPositions(queries: Queries) {
  const ofPosition = (kind: string) =>
    `kind = '${kind}' and item_id is null and leg_id in (select id from leg where ${OF_POSITION})`;
  const [last] = await rowsOf<{ info: Buffer }>(
    queries,
    `select info from leg where ${OF_POSITION} order by created_at desc limit 1`,
  );
  const read = last ? decodeInformation(last.info, 'APRS') : null;
  return {
    positionSentAt: await lastEvidence(queries, ofPosition('sent')),
    positionRepeatedAt: await lastEvidence(queries, ofPosition('relayed')),
    ambiguity: read?.ok && read.value.kind === 'position' ? read.value.ambiguity : null,
  };
}

/** When a station that calls itself a gateway was heard, if that was lately. */
async function gatewayHeard(queries: Queries, now: number): Promise<string | null> {
  // Both symbols of gateways have this code, in either table (Protocol Reference 1.0.1, appendix 2).
  const [row] = await rowsOf<{ at: Date | null }>(
    queries,
    `select max(last_at) as at from station where last_at > $1 and state->>'symbol' like '_&'`,
    [new Date(now - GATEWAY_MS)],
  );
  return isoOf(row?.at);
}
