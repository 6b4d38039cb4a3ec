import { openContent } from '@tombolo/core';
import { rowsOf, storable, type Queries } from '../../store/database';
import type { Stored } from '../store-heard';
import { meshConfigs } from './config';
import { serviceAddresses } from '../../services/directory';
import { calledName } from './name';

/** The tag of a node, or its number while it has not told one. */
export async function nameOf(queries: Queries, bearerId: string, node: string): Promise<string> {
  const [row] = await rowsOf<{ tag: string }>(queries, 'select tag from mesh_node where bearer_id = $1 and node = $2', [
    bearerId,
    node,
  ]);
  return row?.tag ?? node;
}

const NONE: ReadonlySet<string> = new Set();

/** What receptions tell of nodes: that they were heard, how well, and what they announced. */
export async function noteNodes(queries: Queries, stored: readonly Stored[]): Promise<void> {
  const own = new Set<string>();
  if (stored.some(({ understood }) => understood.mesh !== null))
    for (const [bearerId, { node }] of await meshConfigs(queries)) own.add(`${bearerId}/${node}`);
  const services =
    own.size > 0 || stored.some(({ understood }) => understood.mesh) ? await serviceAddresses(queries) : NONE;
  for (const { understood } of stored) {
    const { mesh, heard } = understood;
    if (!mesh || heard.bearerId === null || own.has(`${heard.bearerId}/${mesh.sender}`)) continue;
    const content = openContent(mesh);
    const told = content?.ok && content.value.kind === 'announcement' ? content.value : null;
    if (told) await nameItems(queries, heard.bearerId, mesh.sender, calledName(told.tag, mesh.sender, services));
    await queries.query(
      `insert into mesh_node (bearer_id, node, tag, name, carrier, latitude, longitude, battery_percent, snr_db, hops, last_at)
       values ($1,$2,coalesce($3,$2),coalesce($4,''),coalesce($5,false),$6,$7,$8,$9,$10,$11)
       on conflict (bearer_id, node) do update set
         tag = coalesce($3, mesh_node.tag), name = coalesce($4, mesh_node.name),
         carrier = coalesce($5, mesh_node.carrier), latitude = coalesce($6, mesh_node.latitude),
         longitude = coalesce($7, mesh_node.longitude), battery_percent = coalesce($8, mesh_node.battery_percent),
         snr_db = $9, hops = $10, last_at = $11`,
      [
        heard.bearerId,
        mesh.sender,
        told ? calledName(told.tag, mesh.sender, services) : null,
        told ? storable(told.name) : null,
        told?.carrier ?? null,
        told?.position?.latitude ?? null,
        told?.position?.longitude ?? null,
        told?.batteryPercent ?? null,
        heard.signal?.snrDb ?? null,
        mesh.hops,
        new Date(heard.heardAtMs),
      ],
    );
  }
}

/** What somebody else knows of a node. */
export interface KnownNode {
  readonly node: string;
  readonly tag: string;
  readonly name: string;
  readonly carrier: boolean;
  readonly latitude: number | null;
  readonly longitude: number | null;
  readonly percent: number | null;
  readonly at: string;
}

/** Takes over what our node knows of others; what this station heard itself is newer and stays. */
export async function noteKnown(
  queries: Queries,
  bearerId: string,
  own: string,
  nodes: readonly KnownNode[],
  nowMs: number,
): Promise<void> {
  const services = await serviceAddresses(queries);
  for (const node of nodes) {
    if (node.node === own) continue;
    await nameItems(queries, bearerId, node.node, calledName(node.tag, node.node, services));
    await queries.query(
      `insert into mesh_node (bearer_id, node, tag, name, carrier, latitude, longitude, battery_percent, last_at)
         values ($1,$2,$3,$4,$5,$6,$7,$8,$9)
         on conflict (bearer_id, node) do update set tag = $3, name = $4, carrier = $5,
           latitude = coalesce(mesh_node.latitude, $6), longitude = coalesce(mesh_node.longitude, $7),
           battery_percent = coalesce(mesh_node.battery_percent, $8)`,
      [
        bearerId,
        node.node,
        calledName(node.tag, node.node, services),
        storable(node.name),
        node.carrier,
        node.latitude,
        node.longitude,
        node.percent === null ? null : Math.round(node.percent),
        new Date(Math.min(nowMs, Date.parse(node.at))),
      ],
    );
  }
}

/**
 * What came before the node told its tag bears its number: people know the tag. Asked before the tag is kept, so that only the first of its
 * announcements costs more than a look.
 */
async function nameItems(queries: Queries, bearerId: string, node: string, tag: string): Promise<void> {
  if (tag === node || (await nameOf(queries, bearerId, node)) === tag) return;
  const named = [tag, node];
  await queries.query(
    `update leg l set from_call = $1 from item i where i.id = l.item_id and i.direction = 'in' and i.sender = $2
       and l.from_call = $2 and l.detail ? 'node'`,
    named,
  );
  await queries.query(
    `update item set sender = $1 where direction = 'in' and sender = $2 and external_id like 'mesh%'`,
    named,
  );
}
