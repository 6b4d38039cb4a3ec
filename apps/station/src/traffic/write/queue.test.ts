import { randomUUID } from 'node:crypto';
import { eventually, itemWhen } from '../../testing/harness';
import { FARM_NODE, startMeshStation, type MeshStation } from '../../testing/mesh-station';
import { listPerson } from '../../testing/listed';
import { meshText, messageTo, textTo } from '../../testing/written';

let rig: MeshStation;
let api: MeshStation['api'];
beforeEach(async () => {
  rig = await startMeshStation();
  ({ api } = rig);
});
afterEach(() => rig.stop());

const announcement = {
  kind: 'announcement',
  tag: 'LSFARM',
  name: 'Farm',
  carrier: false,
  position: null,
  batteryPercent: null,
} as const;
const toPerson = (name: string) => ({ ...meshText(null, 'Come over'), addressee: { is: 'person', name } as const });

describe('what is written for somebody', () => {
  beforeEach(async () => {
    await listPerson(api, 'Farm', { node: 'LSFARM' });
    await listPerson(api, 'Hut', { node: 'HUT' });
    await listPerson(api, 'Ferry Office', { mail: 'office@ferry.example' });
  });

  it('goes to the address that the person has on that way', async () => {
    const written = toPerson('farm');
    await api.post('/items', written);
    const item = await itemWhen(api, written.id, ({ status }) => status.rung === 'sent');
    expect(item).toMatchObject({ addressee: 'LSFARM', acknowledgementAsked: true });
    expect(rig.node.sent[0]!.addressee).toBe(FARM_NODE);
  });

  it('is refused in words where there is no such address, none, or more than one', async () => {
    expect(await api.post('/items', toPerson('Nobody'))).toMatchObject({
      status: 422,
      detail: '“Nobody” is not in your list of people.',
    });
    expect(await api.post('/items', toPerson('Ferry Office'))).toMatchObject({
      status: 422,
      detail: 'Your list of people has no address of Ferry Office for that way.',
    });
    expect(await api.post('/items', toPerson('Hut'))).toMatchObject({
      status: 422,
      detail: 'Hut’s node HUT was not heard yet.',
    });
    await rig.node.hear({ sender: '0BAD-0005', content: announcement });
    await eventually(async () => (await api.get<unknown[]>('/mesh-nodes')).length === 2);
    expect(await api.post('/items', toPerson('Farm'))).toMatchObject({
      status: 422,
      detail: '2 nodes call themselves LSFARM: give the number, 0BAD-0005 or 01D1-0005.',
    });
    expect(await api.get('/items')).toMatchObject({ rows: [] });
  });
});

describe('what is written for a bearer', () => {
  it('that carries something else, or is not there, is refused and nothing is queued', async () => {
    expect(await api.post('/items', messageTo('QT1NC@QT1BB-4', 'Count', 'Sixty', { bearerId: 'mesh' }))).toMatchObject({
      status: 422,
      detail: expect.stringContaining('carries texts, not messages'),
    });
    expect(await api.post('/items', textTo('QT4LB-8', 'Hello', { bearerId: 'none' }))).toMatchObject({
      status: 422,
      title: 'That bearer does not exist',
    });
    expect(await api.post('/items', meshText(null, 'Hello', { answers: randomUUID() }))).toMatchObject({
      status: 422,
      title: 'What it answers is not there',
    });
    expect(await api.get('/items')).toMatchObject({ rows: [] });
  });
});

describe('the same identifier twice at the same moment', () => {
  it('is one item, which both are told of, though neither has been stored when the other comes', async () => {
    const written = meshText(null, 'Pressed twice');
    const hold = await rig.station.context.database.createQueryRunner();
    await hold.connect();
    // Whoever comes first stops where it would store, and the other comes meanwhile.
    await hold.startTransaction();
    await hold.query('lock table item in share mode');
    const presses = [api.post('/items', written), api.post('/items', written)];
    await eventually(async () => {
      const [{ waiting }] = await rig.station.context.database.query(
        `select count(*)::int as waiting from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()`,
      );
      return waiting === 2;
    });
    await hold.commitTransaction();
    await hold.release();
    const answers = await Promise.all(presses);
    expect(answers).toEqual([expect.objectContaining({ id: written.id }), expect.objectContaining({ id: written.id })]);
    expect(await api.get('/items')).toMatchObject({ rows: [{ id: written.id }] });
  });
});
