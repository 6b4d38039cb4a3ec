import type { MeshContent } from '@tombolo/core';
import type { DataSource, EntityManager } from 'typeorm';
import { appendEvents } from '../../store/events';
import { rowsOf, storable } from '../../store/database';
import type { MeshConfig } from './encode';
import type { MeshHeard, MeshKnown } from './wire';

/** The tag of a node, or its number while it has not told one. */
export async function nameOf(manager: EntityManager, bearerId: string, node: string): Promise<string> {
  const [row] = await rowsOf<{ tag: string }>(manager, 'select tag from mesh_node where bearer_id = $1 and node = $2', [
    bearerId,
    node,
  ]);
  return row?.tag ?? node;
}

/** Records that a node was heard, and what it announced of itself. */
export async function noteNode(
  manager: EntityManager,
  bearerId: string,
  { frame, snrDb }: MeshHeard,
  content: MeshContent | null,
  at: Date,
): Promise<void> {
  const told = content?.kind === 'announcement' ? content : null;
  await manager.query(
    `insert into mesh_node (bearer_id, node, tag, name, carrier, latitude, longitude, battery_percent, snr_db, hops, last_at)
     values ($1,$2,coalesce($3,$2),coalesce($4,''),coalesce($5,false),$6,$7,$8,$9,$10,$11)
     on conflict (bearer_id, node) do update set
       tag = coalesce($3, mesh_node.tag), name = coalesce($4, mesh_node.name),
       carrier = coalesce($5, mesh_node.carrier), latitude = coalesce($6, mesh_node.latitude),
       longitude = coalesce($7, mesh_node.longitude), battery_percent = coalesce($8, mesh_node.battery_percent),
       snr_db = $9, hops = $10, last_at = $11`,
    [
      bearerId,
      frame.sender,
      told?.tag ?? null,
      told ? storable(told.name) : null,
      told?.carrier ?? null,
      told?.position?.latitude ?? null,
      told?.position?.longitude ?? null,
      told?.batteryPercent ?? null,
      snrDb,
      frame.hops,
      at,
    ],
  );
  if (told) await nameItems(manager, frame.sender, told.tag);
}

export interface MeshKnownContext {
  readonly bearerId: string;
  readonly config: MeshConfig;
  readonly database: DataSource;
  readonly now: () => number;
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
        `insert into mesh_node (bearer_id, node, tag, name, carrier, latitude, longitude, battery_percent, last_at)
         values ($1,$2,$3,$4,$5,$6,$7,$8,$9)
         on conflict (bearer_id, node) do update set tag = $3, name = $4, carrier = $5,
           latitude = coalesce(mesh_node.latitude, $6), longitude = coalesce(mesh_node.longitude, $7),
           battery_percent = coalesce(mesh_node.battery_percent, $8)`,
        [
          bearerId,
          node.node,
          node.tag,
          storable(node.name),
          node.carrier,
          node.latitude,
          node.longitude,
          node.percent === null ? null : Math.round(node.percent),
          new Date(Math.min(now(), Date.parse(node.at))),
        ],
      );
      await nameItems(manager, node.node, node.tag);
    }
    await appendEvents(manager, [{ type: 'mesh', data: { bearerId } }], new Date(now()));
  });
}

/** What came before the node told its tag bears its number: people know the tag. */
async function nameItems(manager: EntityManager, node: string, tag: string): Promise<void> {
  const named = [tag, node];
  await manager.query(`update item set sender = $1 where sender = $2 and external_id like 'mesh%'`, named);
  await manager.query(`update leg set from_call = $1 where from_call = $2 and detail ? 'node'`, named);
}
