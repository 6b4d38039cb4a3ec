import type { MeshConfig } from '@tombolo/contract';
import { rowsOf, type Queries } from '../../store/database';

export type { MeshConfig };

export const keyOf = (base64: string | null): Uint8Array | null =>
  base64 === null ? null : new Uint8Array(Buffer.from(base64, 'base64'));

/** By which a packet of ours is recognised when it is heard again. */
export const meshIdentity = (number: string): Buffer => Buffer.from(`mesh/${number}`);

/** The meshes that this station is on, by bearer. */
export async function meshConfigs(queries: Queries): Promise<ReadonlyMap<string, MeshConfig>> {
  const rows = await rowsOf<{ id: string; config: MeshConfig }>(
    queries,
    `select id, config from bearer where config->>'kind' = 'mesh-mqtt'`,
  );
  return new Map(rows.map(({ id, config }) => [id, config]));
}
