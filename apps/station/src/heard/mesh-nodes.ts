import { bearingBetween } from '@tombolo/core';
import type { MeshNodeView, Settings } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';

/** A node as it is kept. */
export interface MeshNodeRow {
  bearer_id: string;
  node: string;
  tag: string;
  name: string;
  carrier: boolean;
  latitude: number | null;
  longitude: number | null;
  battery_percent: number | null;
  snr_db: number | null;
  hops: number | null;
  last_at: Date;
}

/** Nodes of the meshes, the last heard first. */
export async function listMeshNodes(queries: Queries, settings: Settings): Promise<MeshNodeView[]> {
  const rows = await rowsOf<MeshNodeRow>(queries, 'select * from mesh_node order by last_at desc limit 500', []);
  return rows.map((row) => {
    const bearing =
      settings.position && row.latitude !== null && row.longitude !== null
        ? bearingBetween(settings.position, { latitude: row.latitude, longitude: row.longitude })
        : null;
    return {
      bearerId: row.bearer_id,
      node: row.node,
      tag: row.tag,
      name: row.name,
      carrier: row.carrier,
      latitude: row.latitude,
      longitude: row.longitude,
      batteryPercent: row.battery_percent,
      snrDb: row.snr_db,
      hops: row.hops,
      lastAt: row.last_at.toISOString(),
      distanceKm: bearing?.distanceKm ?? null,
      azimuthDeg: bearing?.azimuthDeg ?? null,
    };
  });
}
