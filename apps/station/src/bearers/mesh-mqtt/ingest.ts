import { channelMark, openPayload, REPEAT_WINDOW_MS } from '@tombolo/core';
import type { Settings } from '@tombolo/contract';
import type { DataSource, EntityManager } from 'typeorm';
import { addEvidence } from '../../store/evidence';
import { appendEvents, type NewEvent } from '../../store/events';
import { rowsOf, storable } from '../../store/database';
import { recordArrival } from '../../traffic/arrive';
import { copyKey } from '../../traffic/copy-key';
import { beginOverflow, growOverflow, lookAtInbox, openOverflow } from '../../traffic/inbox';
import { queueAutomatic, settle } from '../../transmissions/write';
import { keyOf, meshIdentity, type MeshConfig } from './encode';
import { parseMeshBody, type MeshBody, type MeshHeard, type MeshKnown } from './wire';

export interface MeshKnownContext {
  readonly bearerId: string;
  readonly config: MeshConfig;
  readonly database: DataSource;
  readonly now: () => number;
}

export interface MeshIngestContext extends MeshKnownContext {
  readonly settings: () => Promise<Settings>;
}

/** What a packet says, as far as one of our channels opens it. */
export type Opened =
  { readonly body: MeshBody; readonly channel: string } | { readonly body: null; readonly reason: string };

/** Opens a packet with the channels of this station. */
export function openHeard(config: MeshConfig, heard: MeshHeard): Opened {
  const marked = config.channels.filter(({ name, key }) => channelMark(name, keyOf(key)) === heard.channel);
  if (heard.body) return { body: heard.body, channel: marked.find(({ key }) => key === null)?.name ?? 'open' };
  if (heard.sealed === null) return { body: null, reason: 'a packet without a body' };
  for (const { name, key } of marked) {
    const octets = keyOf(key);
    if (!octets) continue;
    const opened = openPayload(new Uint8Array(Buffer.from(heard.sealed, 'base64')), octets, heard);
    const body = opened.ok ? parseMeshBody(opened.value) : opened;
    if (body.ok) return { body: body.value, channel: name };
  }
  return { body: null, reason: 'sealed under a key that this station does not hold' };
}

const ACK_POLICY = { firstS: 20, factor: 2, capS: 60, tries: 1, jitter: 0.2 };

/** Stores what a packet of the mesh means: nodes, our packets repeated, acknowledgements, texts. */
export async function ingestMesh(
  context: MeshIngestContext,
  heard: MeshHeard,
  raw: string,
  heardAtMs = context.now(),
): Promise<void> {
  const { config, bearerId, database } = context;
  const at = new Date(heardAtMs);
  await database.transaction(async (manager) => {
    const events: NewEvent[] = [];
    if (heard.from === config.node) {
      await noteRepeat(manager, context, heard, raw, at, events);
    } else {
      const opened = openHeard(config, heard);
      await noteNode(manager, context, heard, opened.body, at);
      events.push({ type: 'mesh', data: { bearerId, node: heard.from } });
      const forUs = heard.to === 'all' || heard.to === config.node;
      if (opened.body === null) {
        // Sealed broadcasts of others are none of our business: that the node was heard is noted above.
        if (heard.to === config.node) await keepSealed(manager, context, heard, raw, opened.reason, at, events);
      } else if (opened.body.kind === 'text' && forUs) {
        await keepText(manager, context, heard, opened.body, opened.channel, raw, at, events);
      } else if (opened.body.kind === 'ack' && heard.to === config.node) {
        await noteAck(manager, context, heard, opened.body.n, opened.channel, raw, at, events);
      }
    }
    await appendEvents(manager, events, at);
  });
}

/** The short name of a node, or its number while it has not told one. */
async function nameOf(manager: EntityManager, bearerId: string, node: string): Promise<string> {
  const [row] = await rowsOf<{ short_name: string }>(
    manager,
    'select short_name from mesh_node where bearer_id = $1 and node = $2',
    [bearerId, node],
  );
  return row?.short_name ?? node;
}

async function noteNode(
  manager: EntityManager,
  { bearerId }: MeshIngestContext,
  heard: MeshHeard,
  body: MeshBody | null,
  at: Date,
): Promise<void> {
  const info = body?.kind === 'info' ? body : null;
  const position = body?.kind === 'position' ? body : null;
  await manager.query(
    `insert into mesh_node (bearer_id, node, short_name, long_name, router, latitude, longitude, battery_percent, snr_db, hops, last_at)
     values ($1,$2,coalesce($3,$2),coalesce($4,''),coalesce($5,false),$6,$7,$8,$9,$10,$11)
     on conflict (bearer_id, node) do update set
       short_name = coalesce($3, mesh_node.short_name), long_name = coalesce($4, mesh_node.long_name),
       router = coalesce($5, mesh_node.router), latitude = coalesce($6, mesh_node.latitude),
       longitude = coalesce($7, mesh_node.longitude), battery_percent = coalesce($8, mesh_node.battery_percent),
       snr_db = $9, hops = $10, last_at = $11`,
    [
      bearerId,
      heard.from,
      info ? storable(info.short) : null,
      info ? storable(info.long) : null,
      info?.router ?? null,
      position?.latitude ?? null,
      position?.longitude ?? null,
      body?.kind === 'battery' ? Math.round(body.percent) : null,
      heard.snrDb,
      heard.hops,
      at,
    ],
  );
  if (info) await nameItems(manager, heard.from, info.short);
}

/** Takes over what the node knows of others; what this station heard itself is newer and stays. */
export async function ingestKnown(
  { bearerId, database, config, now }: MeshKnownContext,
  known: MeshKnown,
): Promise<void> {
  await database.transaction(async (manager) => {
    for (const node of known.nodes) {
      if (node.node === config.node) continue;
      await manager.query(
        `insert into mesh_node (bearer_id, node, short_name, long_name, router, latitude, longitude, battery_percent, last_at)
         values ($1,$2,$3,$4,$5,$6,$7,$8,$9)
         on conflict (bearer_id, node) do update set short_name = $3, long_name = $4, router = $5,
           latitude = coalesce(mesh_node.latitude, $6), longitude = coalesce(mesh_node.longitude, $7),
           battery_percent = coalesce(mesh_node.battery_percent, $8)`,
        [
          bearerId,
          node.node,
          storable(node.short),
          storable(node.long),
          node.router,
          node.latitude,
          node.longitude,
          node.percent === null ? null : Math.round(node.percent),
          new Date(Math.min(now(), Date.parse(node.at))),
        ],
      );
      await nameItems(manager, node.node, node.short);
    }
    await appendEvents(manager, [{ type: 'mesh', data: { bearerId } }], new Date(now()));
  });
}

/** What came before the node told its name bears its number: people know the name. */
async function nameItems(manager: EntityManager, node: string, short: string): Promise<void> {
  const named = [storable(short), node];
  await manager.query(`update item set sender = $1 where sender = $2 and external_id like 'mesh%'`, named);
  await manager.query(`update leg set from_call = $1 where from_call = $2 and detail ? 'node'`, named);
}

async function noteRepeat(
  manager: EntityManager,
  { bearerId }: MeshIngestContext,
  heard: MeshHeard,
  raw: string,
  at: Date,
  events: NewEvent[],
): Promise<void> {
  if (heard.relay === null) return;
  const [attempt] = await rowsOf<{ leg_id: string; n: number; item_id: string; role: string }>(
    manager,
    `select a.leg_id, a.n, l.item_id, l.role from attempt a join leg l on l.id = a.leg_id where a.identity = $1
       and a.intended_at <= $2 and a.intended_at > $3 order by a.intended_at desc limit 1`,
    [meshIdentity(heard.id), at, new Date(at.getTime() - REPEAT_WINDOW_MS)],
  );
  if (!attempt || attempt.role !== 'convey') return;
  const by = await nameOf(manager, bearerId, heard.relay);
  await addEvidence(manager, {
    key: `relayed:${attempt.leg_id}:${attempt.n}:${heard.relay}`,
    itemId: attempt.item_id,
    legId: attempt.leg_id,
    attempt: attempt.n,
    kind: 'relayed',
    at,
    bearer: bearerId,
    by,
    via: [by],
    raw,
    note: `heard repeated by node ${by}`,
  });
  events.push({ type: 'item', data: { id: attempt.item_id } });
}

async function noteAck(
  manager: EntityManager,
  { bearerId }: MeshIngestContext,
  heard: MeshHeard,
  number: string,
  channel: string,
  raw: string,
  at: Date,
  events: NewEvent[],
): Promise<void> {
  // What was sealed is acknowledged under the same key, or by somebody who could not read it.
  const [leg] = await rowsOf<{ id: string; item_id: string; attempt: number | null }>(
    manager,
    `select l.id, l.item_id, a.n as attempt
     from leg l join item i on i.id = l.item_id join attempt a on a.leg_id = l.id
     where l.bearer_id = $1 and l.role = 'convey' and l.detail->>'node' = $2
       and coalesce(l.detail->>'number', i.number) = $3 and l.detail->>'channel' = $4
       and a.intended_at <= $5 and a.intended_at > $6
     order by a.intended_at desc limit 1`,
    [bearerId, heard.from, number, channel, at, new Date(at.getTime() - REPEAT_WINDOW_MS)],
  );
  if (!leg) return;
  const by = await nameOf(manager, bearerId, heard.from);
  await addEvidence(manager, {
    key: `delivered:${leg.id}:${heard.id}`,
    itemId: leg.item_id,
    legId: leg.id,
    attempt: leg.attempt,
    kind: 'delivered',
    at,
    bearer: bearerId,
    by,
    raw,
    note: `node ${by} acknowledged, ${hopWords(heard.hops)}`,
  });
  await settle(manager, leg.id);
  events.push({ type: 'item', data: { id: leg.item_id } });
}

const hopWords = (hops: number): string =>
  hops === 0 ? 'heard direct' : hops === 1 ? 'over one hop' : `over ${hops} hops`;

async function keepText(
  manager: EntityManager,
  context: MeshIngestContext,
  heard: MeshHeard,
  body: Extract<MeshBody, { kind: 'text' }>,
  channel: string,
  raw: string,
  at: Date,
  events: NewEvent[],
): Promise<void> {
  const { bearerId, config } = context;
  const sender = await nameOf(manager, bearerId, heard.from);
  const direct = heard.to === config.node;
  const via = heard.relay === null ? [] : [await nameOf(manager, bearerId, heard.relay)];
  const addressee = direct ? config.shortName : channel;
  const settings = await context.settings();
  const externalId = copyKey('mesh', `${bearerId}/${heard.from}/${body.n}`, [body.text]);
  const { standing, room } = await lookAtInbox(manager, { name: sender, kind: 'text', text: body.text }, settings);
  const known = await isCopy(manager, externalId, at);
  const open = room || known ? null : await openOverflow(manager, 'text', sender, addressee);
  if (open) {
    await growOverflow(manager, 'text', sender, addressee, open, body.text, at);
    events.push({ type: 'item', data: { id: open.itemId } });
    return;
  }
  const refused = !room && !known;
  const { itemId } = await recordArrival(manager, {
    externalId,
    copyWithinMs: REPEAT_WINDOW_MS,
    kind: 'text',
    sender,
    addressee,
    body: body.text,
    at,
    bearerId,
    from: sender,
    via,
    own: config.shortName,
    trace: [heard.from, sender],
    raw,
    note: `${hopWords(heard.hops)}, channel ${channel}${heard.sealed === null ? '' : ', sealed'}${refused ? '; there was no room for it, and it was not taken' : ''}`,
    detail: { node: heard.from, channel },
    standing,
    refused,
  });
  if (refused) await beginOverflow(manager, 'text', sender, addressee, itemId, at);
  events.push({ type: 'item', data: { id: itemId } });
  if (!direct || refused) return;
  // Acknowledged each time it comes – the sender did not hear the last one – and once while that waits.
  await queueAutomatic(
    manager,
    {
      itemId,
      role: 'acknowledge',
      bearerId,
      fromCall: config.shortName,
      toCall: sender,
      policy: ACK_POLICY,
      detail: { node: heard.from, channel, acknowledges: body.n },
    },
    at,
  );
}

/** Whether a text was taken before, within the time in which it counts as the same. */
async function isCopy(manager: EntityManager, externalId: string, at: Date): Promise<boolean> {
  const rows = await rowsOf(
    manager,
    `select 1 from item where (external_id = $1 or (external_id >= $2 and external_id < $3)) and not refused
       and created_at between $4 and $5 limit 1`,
    [
      externalId,
      `${externalId}@`,
      `${externalId}A`,
      new Date(at.getTime() - REPEAT_WINDOW_MS),
      new Date(at.getTime() + REPEAT_WINDOW_MS),
    ],
  );
  return rows.length > 0;
}

async function keepSealed(
  manager: EntityManager,
  context: MeshIngestContext,
  heard: MeshHeard,
  raw: string,
  reason: string,
  at: Date,
  events: NewEvent[],
): Promise<void> {
  const { bearerId, config } = context;
  const sender = await nameOf(manager, bearerId, heard.from);
  const text = `Cannot be read: ${reason}`;
  const open = await openOverflow(manager, 'sealed', sender, config.shortName);
  if (open) {
    await growOverflow(manager, 'sealed', sender, config.shortName, open, text, at);
    events.push({ type: 'item', data: { id: open.itemId } });
    return;
  }
  const { itemId } = await recordArrival(manager, {
    externalId: copyKey('mesh', `${bearerId}/${heard.from}/sealed`, [heard.id]),
    copyWithinMs: REPEAT_WINDOW_MS,
    kind: 'text',
    sender,
    addressee: config.shortName,
    body: text,
    at,
    bearerId,
    from: sender,
    own: config.shortName,
    trace: [heard.from, sender],
    raw,
    note: reason,
    detail: { node: heard.from },
    undecipherable: true,
  });
  await beginOverflow(manager, 'sealed', sender, config.shortName, itemId, at);
  events.push({ type: 'item', data: { id: itemId } });
}
