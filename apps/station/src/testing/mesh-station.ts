import type { ItemSummary, MeshNodeView, Settings } from '@tombolo/contract';
import { EVERYBODY } from '@tombolo/core';
import { insertBearer } from '../http/routes/bearers';
import { createDatabase, eventually, startModem, startWithModem } from './harness';
import { meshConfig, startMeshNode } from './mesh-node';

export const OWN_NODE = '01D1-0002';
export const FARM_NODE = '01D1-0005';
export const RELIEF = { name: 'Relief', key: new Uint8Array(32).fill(7) };
/** A text that the farm writes. */
export const question = { kind: 'text' as const, n: '01', text: 'Ferry Office: When do you run again?' };

export type MeshStation = Awaited<ReturnType<typeof startMeshStation>>;

/** A station with a modem and a mesh of two channels, which knows the node of the farm. */
export async function startMeshStation(settings: Partial<Settings> = {}) {
  const database = await createDatabase();
  const modem = await startModem();
  const node = await startMeshNode(OWN_NODE, FARM_NODE, 'Sound');
  const station = await startWithModem(database.url, modem, settings);
  const { api } = station;
  const channels = [
    { name: 'Sound', key: null, kept: false },
    { name: RELIEF.name, key: Buffer.from(RELIEF.key).toString('base64'), kept: false },
  ];
  await insertBearer(station.context, 'mesh', 'Mesh', meshConfig(node.port, OWN_NODE, { channels }));
  await station.context.bearersChanged();
  await eventually(
    async () =>
      (await api.get<{ id: string; state: { link: string } }[]>('/bearers')).find(({ id }) => id === 'mesh')?.state
        .link === 'up',
  );
  await node.hear({
    addressee: EVERYBODY,
    content: {
      kind: 'announcement',
      tag: 'LSFARM',
      name: 'Farm',
      carrier: false,
      position: { latitude: 41.2851, longitude: -43.2479 },
      batteryPercent: 64,
    },
  });
  await eventually(async () => (await api.get<MeshNodeView[]>('/mesh-nodes')).length > 0);
  return {
    station,
    database,
    api,
    node,
    modem,
    /** The arrived item with these words. */
    arrived: (words: string): Promise<ItemSummary> =>
      eventually(async () => {
        const { rows } = await api.get<{ rows: ItemSummary[] }>('/items?direction=in');
        return rows.find(({ body }) => body.includes(words));
      }),
    async stop() {
      await station.stop();
      await node.stop();
      await modem.stop();
      await database.drop();
    },
  };
}
