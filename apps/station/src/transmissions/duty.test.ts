import { Client } from 'pg';
import { loraAirTimeMs, MESH_MOST_WAIT_MS } from '@tombolo/core';
import type { BearerView } from '@tombolo/contract';
import { eventually, itemWhen } from '../testing/harness';
import { meshText } from '../testing/written';
import { startMeshStation, type MeshStation } from '../testing/mesh-station';

let rig: MeshStation;
let station: MeshStation['station'];
let node: MeshStation['node'];
let api: MeshStation['api'];
beforeEach(async () => {
  rig = await startMeshStation();
  ({ station, node, api } = rig);
});
afterEach(() => rig.stop());

describe('the hour’s air time', () => {
  const duty = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!.duty!;
  const text = (body: string) => meshText(null, body);

  it('is spent by what we send and what the node repeats, told once each', async () => {
    expect(await duty()).toMatchObject({ subBand: '868.0–868.6 MHz', usedMs: 0, mostMs: 36_000 });
    const first = text('Water is rising');
    await api.post('/items', first);
    await itemWhen(api, first.id, ({ status }) => status.rung === 'sent');
    // 18 + 6 + 15 octets, SF9, 125 kHz, 4/5, preamble 12: 67.25 symbols and more, by the formula of the designer's guide.
    const own = (await duty()).usedMs;
    expect(own).toBe(
      Math.ceil(loraAirTimeMs(39, { spreadingFactor: 9, bandwidthHz: 125_000, codingRate: 1, preambleSymbols: 12 })),
    );
    // It may wait for a clear channel: until then it must not have left the hour.
    const [spent] = await station.context.database.query<{ at: Date }[]>('select at from duty_air');
    expect(spent!.at.getTime()).toBeGreaterThan(Date.now() + MESH_MOST_WAIT_MS - 5000);
    // What the node was on the air by itself, told whole each time: the same minute again with what it has become.
    const minute = (ago: number) => new Date(Math.floor(Date.now() / 60_000 - ago) * 60_000).toISOString();
    const earlier = { at: minute(20), ms: 400 };
    await node.tell('account', { minutes: [{ at: minute(90), ms: 9000 }, earlier] }, true);
    await eventually(async () => (await duty()).usedMs === own + 400);
    await node.tell('account', { minutes: [earlier, { at: minute(0), ms: 250 }] }, true);
    await node.tell('account', { minutes: [earlier, { at: minute(0), ms: 300 }] }, true);
    await eventually(async () => (await duty()).usedMs === own + 700);
  });

  it('that is used up makes a text wait, with its reason and time, and it goes out when enough is over', async () => {
    await station.context.database.query(
      `insert into duty_air values ('mesh', '868.0–868.6 MHz', 'before', $1, 36000, 'own')`,
      [new Date(Date.now() - 3_600_000 + 4000)],
    );
    const waiting = text('Water is rising');
    await api.post('/items', waiting);
    const item = await itemWhen(api, waiting.id, ({ evidence }) =>
      evidence.some(({ note }) => note?.includes('used up')),
    );
    expect(item.status).toMatchObject({ rung: 'queued', outcome: null });
    expect(node.sent).toHaveLength(0);
    await itemWhen(api, waiting.id, ({ status }) => status.rung === 'sent', 20);
    expect(node.sent).toHaveLength(1);
  });

  it('and the node itself are held when everything is, and while no antenna is confirmed', async () => {
    const silent = (wanted: boolean) => eventually(() => node.setups.at(-1)!.silent === wanted, 10);
    await silent(false);
    await api.send('/hold', { method: 'PUT', headers: { 'content-type': 'application/json' }, body: '{"held":true}' });
    await silent(true);
    await api.send('/hold', { method: 'PUT', headers: { 'content-type': 'application/json' }, body: '{"held":false}' });
    await silent(false);
    await api.patch('/settings', { antennaConfirmed: false });
    await silent(true);
    await api.patch('/settings', { antennaConfirmed: true });
    await silent(false);
  });

  it('is up only when the hour of the node is stored, and tries to until it is', async () => {
    const owner = new Client({ connectionString: rig.database.ownerUrl });
    await owner.connect();
    const state = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!.state;
    const minute = new Date(Math.floor(Date.now() / 60_000) * 60_000).toISOString();
    await api.patch('/bearers/mesh', { enabled: false });
    await node.tell('account', { minutes: [{ at: minute, ms: 700 }] }, true);
    try {
      await owner.query('revoke insert, update on duty_air from tombolo_app');
      await api.patch('/bearers/mesh', { enabled: true });
      await eventually(async () => (await state()).reason === 'waiting for the node to say what it was on the air');
    } finally {
      await owner.query('grant insert, update on duty_air to tombolo_app');
      await owner.end();
    }
    await eventually(async () => (await state()).link === 'up');
    expect((await duty()).usedMs).toBe(700);
  });

  it('nothing is sent while the node works on another setting, or none is set', async () => {
    const up = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!.state;
    await node.tell('state', {
      radio: { ...(node.setups[0]!.radio as object), spreadingFactor: 12 },
      tag: 'SKSCHL',
      carrier: false,
    });
    expect(
      (
        await eventually(async () => {
          const state = await up();
          return state.link === 'down' && state;
        })
      ).reason,
    ).toBe('the node is set to 868.3 MHz, SF12, 125 kHz, 4/5, this bearer to 868.3 MHz, SF9, 125 kHz, 4/5');
    const view = (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === 'mesh')!;
    await api.patch('/bearers/mesh', { config: { ...view.config, radio: null } });
    expect(
      (
        await eventually(async () => {
          const state = await up();
          return /not set/.test(state.reason ?? '') && state;
        })
      ).link,
    ).toBe('down');
    const waiting = text('Hello');
    await api.post('/items', waiting);
    await api.patch('/bearers/mesh', { config: view.config });
    await itemWhen(api, waiting.id, ({ status }) => status.rung === 'sent', 20);
    expect(node.sent).toHaveLength(1);
  });
});
