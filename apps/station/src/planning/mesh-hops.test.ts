import { waysQuestion, type EverybodyView, type NetView, type WaysView } from '@tombolo/contract';
import { CARRIER_END, EVERYBODY, meanOf, repeatedFrame, type MeshContent } from '@tombolo/core';
import { eventually } from '../testing/harness';
import { listPerson } from '../testing/listed';
import { FARM_NODE, OWN_NODE, startMeshStation, type MeshStation } from '../testing/mesh-station';
import { meshText } from '../testing/written';
import { netOf } from './net';
import { planningOf } from './of-station';
import { proposeWays } from './propose';

const RIGG = '01D1-0003';
let rig: MeshStation;
beforeEach(async () => {
  rig = await startMeshStation({ position: { latitude: 41.269, longitude: -43.285 } });
});
afterEach(() => rig.stop());

const announced = (tag: string, carrier: boolean): MeshContent => ({
  kind: 'announcement',
  tag,
  name: tag,
  carrier,
  position: null,
  batteryPercent: null,
});
const receptions = (n: number) =>
  eventually(async () => {
    const [row] = await rig.station.context.database.query<[{ n: number }]>('select count(*)::int as n from reception');
    return row.n >= n;
  });
const net = () => rig.api.get<NetView>('/net?bearerId=mesh');
const chanceIn = ({ hops }: NetView, from: string, to: string) => {
  const hop = hops.find((one) => one.from === from && one.to === to);
  return hop ? meanOf(hop.belief) : 0;
};
const ways = (to: string) =>
  rig.api.post<WaysView>('/ways', { to, text: 'On the way', precedence: 'routine', withinMin: null });
/** The carrier is heard straight, the farm over one hop. */
async function heardOverTheRigg(times: number) {
  for (let n = 0; n < times; n++) {
    await rig.node.hear({ sender: RIGG, hops: 0, addressee: EVERYBODY, content: announced('BCNRIG', true) });
    await rig.node.hear({ hops: 1, addressee: EVERYBODY, content: { kind: 'text', n: String(n), text: `No ${n}` } });
  }
  await receptions(1 + 2 * times);
}

describe('the net of a mesh', () => {
  it('tells who is heard straight, and who likely carried what came over others', async () => {
    await heardOverTheRigg(5);
    const view = await net();
    expect(view).toMatchObject({ own: OWN_NODE, bearerId: 'mesh', mostRepeats: 4, addedEnd: CARRIER_END });
    expect(view.mesh).toMatchObject({ frequencyHz: 868_300_000, spreadingFactor: 9 });
    expect(view.stations.map(({ label, wanted, repeats }) => [label, wanted, repeats]).sort()).toEqual([
      ['BCNRIG', true, true],
      ['LSFARM', true, true],
      ['SKSCHL', false, true],
    ]);
    expect(view.stations.find(({ label }) => label === 'BCNRIG')!.end).toEqual(CARRIER_END);
    // Nobody signed what the farm sent: none but the carrier can have repeated it.
    expect(view.hops.find(({ from, to }) => from === FARM_NODE && to === RIGG)).toMatchObject({ seen: true });
    expect(chanceIn(view, FARM_NODE, RIGG)).toBeGreaterThan(0.5);
    expect(chanceIn(view, RIGG, OWN_NODE)).toBeGreaterThan(0.7);
    // Each of its packets was missed straight, whatever the map says of four kilometres.
    expect(chanceIn(view, FARM_NODE, OWN_NODE)).toBeLessThan(0.5 * chanceIn(view, RIGG, OWN_NODE));
  });

  it('is not taken in by nodes that are made up, however many, or that say to stand between all', async () => {
    await heardOverTheRigg(4);
    const before = await ways('LSFARM');
    for (let n = 0; n < 40; n++)
      await rig.node.hear({
        sender: `0BAD-${String(n).padStart(4, '0')}`,
        hops: n % 2,
        addressee: EVERYBODY,
        content: { ...announced(`BAD${n}`, true), position: { latitude: 41.277, longitude: -43.266 } } as MeshContent,
      });
    await receptions(49);
    const { stations, hops } = await net();
    expect(stations.length).toBeLessThanOrEqual(31);
    expect(stations.map(({ label }) => label)).toContain('BCNRIG');
    for (const { from, to, belief, seen } of hops)
      if (!seen && from !== OWN_NODE && to !== OWN_NODE) expect(meanOf(belief)).toBeLessThanOrEqual(0.5);
    const after = await ways('LSFARM');
    const chance = (view: WaysView) => view.ways.find(({ title }) => title.startsWith('Mesh'))!.arrives.chance;
    expect(after.ways.flatMap(({ rests }) => rests.map(({ from, to }) => `${from} ${to}`))).toContain('BCNRIG SKSCHL');
    expect(chance(after)).toBeLessThanOrEqual(chance(before) + 0.25);
  });

  it('is thought without its carrier, by what people call it', async () => {
    await heardOverTheRigg(5);
    await listPerson(rig.api, 'Farm people', { node: 'LSFARM' });
    const without = async (off: string) =>
      (await rig.api.get<EverybodyView>(`/ways/everybody?off=${off}`)).people[0]!.surest?.chance ?? 0;
    const asItIs = await without('');
    expect(asItIs).toBeGreaterThan(0.5);
    // What is left is to be heard straight, which was missed each time.
    expect(await without('BCNRIG')).toBeLessThan(0.9 * asItIs);
    expect(await without('mesh')).toBe(0);
    const view = await rig.api.get<EverybodyView>('/ways/everybody');
    expect(view.relies.map(({ id, what }) => [id, what]).sort()).toEqual([
      ['BCNRIG', 'node'],
      ['mesh', 'bearer'],
    ]);
  });

  it('is of a mesh alone, and has nobody where nothing is set', async () => {
    for (const bearer of ['modem', 'nowhere'])
      expect(await rig.api.get(`/net?bearerId=${bearer}`)).toMatchObject({
        status: 404,
        detail: `${bearer} is no bearer of a mesh.`,
      });
    await rig.station.context.database.query(
      `update bearer set config = jsonb_set(config, '{radio}', 'null') where id = 'mesh'`,
    );
    expect(await net()).toMatchObject({ mesh: null, stations: [], hops: [] });
    const { excluded } = await ways('LSFARM');
    expect(excluded.map(({ reason }) => reason)).toContain('No frequency is set for the mesh.');
  });

  it('calls two nodes of one name by their numbers, and a node by its person', async () => {
    await listPerson(rig.api, 'Farm people', { node: 'LSFARM' });
    await rig.node.hear({ sender: RIGG, hops: 0, addressee: EVERYBODY, content: announced('TWICE', false) });
    await rig.node.hear({ sender: '01D1-0009', hops: 0, addressee: EVERYBODY, content: announced('TWICE', false) });
    await receptions(3);
    const { stations } = await net();
    expect(stations.map(({ label }) => label).sort()).toEqual(['01D1-0003', '01D1-0009', 'LSFARM', 'SKSCHL']);
    expect(stations.find(({ label }) => label === 'LSFARM')!.name).toBe('Farm people');
  });
});

describe('a way over a mesh', () => {
  it('is opened hop by hop, by what people call the nodes', async () => {
    await heardOverTheRigg(5);
    const view = await ways('LSFARM');
    const way = view.ways.find(({ title }) => title === 'Mesh, to node LSFARM')!;
    const opened = (from: string, to: string) => way.rests.find((hop) => hop.from === from && hop.to === to);
    expect(opened('BCNRIG', 'SKSCHL')).toMatchObject({ heard: 5 });
    expect(opened('LSFARM', 'BCNRIG')).toMatchObject({ heard: 0, inferred: 6 });
    expect(way.arrives.chance).toBeGreaterThan(0.3);
    // Every node repeats what it hears: both take the channel beside us.
    expect(JSON.stringify(way)).not.toContain(RIGG);
  });

  it('learns from what became of our own texts: by whom they went nobody tells', async () => {
    await heardOverTheRigg(5);
    const before = chanceIn(await net(), OWN_NODE, RIGG);
    await rig.api.patch('/settings', { licenceConfirmed: true, antennaConfirmed: true });
    // Whatever goes out is heard repeated, a second try of the same text too.
    rig.node.onSent(({ octets }) => void rig.node.frame(repeatedFrame(octets)!));
    for (const text of ['One', 'Two', 'Three', 'Four'])
      await rig.api.post('/items', meshText(FARM_NODE, text, { channel: 'Sound' }));
    await eventually(async () => {
      const [row] = await rig.station.context.database.query<[{ n: number }]>(
        `select count(distinct leg_id)::int as n from evidence where kind = 'relayed'`,
      );
      return row.n >= 4;
    });
    // A minute later no repeat is waited for any more.
    const later = { ...(await planningOf(rig.station.context)), nowMs: Date.now() + 60_000 };
    expect(chanceIn(await netOf(later, 'mesh'), OWN_NODE, RIGG)).toBeGreaterThan(before);
    const question = waysQuestion.parse({ to: 'LSFARM', text: 'On the way' });
    const way = (await proposeWays(later, question)).ways.find(({ title }) => title.startsWith('Mesh'))!;
    const { ours } = way.rests.find(({ from, to }) => from === 'SKSCHL' && to === 'BCNRIG')!;
    expect(ours!.element).toBeNull();
    expect(ours!.repeated).toBeGreaterThanOrEqual(4);
  });

  it('learns nothing from our own acknowledgements: nobody counts who repeats them', async () => {
    await heardOverTheRigg(5);
    await rig.api.patch('/settings', { licenceConfirmed: true, antennaConfirmed: true });
    const asked = ['61', '62', '63'];
    for (const n of asked) await rig.node.hear({ content: { kind: 'text', n, text: `Answer me ${n}` } });
    await eventually(
      () => rig.node.sent.filter(({ content }) => content?.kind === 'acknowledgement').length >= asked.length,
    );
    await eventually(async () => {
      const [row] = await rig.station.context.database.query<[{ n: number }]>(
        `select count(*)::int as n from evidence e join leg l on l.id = e.leg_id where e.kind = 'acknowledged' and l.bearer_id = 'mesh'`,
      );
      return row.n >= asked.length;
    });
    const later = { ...(await planningOf(rig.station.context)), nowMs: Date.now() + 60_000 };
    const question = waysQuestion.parse({ to: 'LSFARM', text: 'On the way' });
    const way = (await proposeWays(later, question)).ways.find(({ title }) => title.startsWith('Mesh'))!;
    expect(way.rests.find(({ from, to }) => from === 'SKSCHL' && to === 'BCNRIG')!.ours).toBeNull();
  });

  it('to a node that was heard over others, nobody knows which, says that it is a guess in spite of that', async () => {
    const { ways: all } = await ways('LSFARM');
    const [first, second] = all.find(({ title }) => title === 'Mesh, to node LSFARM')!.sentences;
    expect(first).toContain('heard over 1 hop:');
    expect(second).toContain('A guess: node LSFARM was heard, and nothing that counts tells of its way.');
  });

  it('to a node that was heard straight rests on that, days later too', async () => {
    await rig.node.hear({ hops: 0, addressee: EVERYBODY, content: announced('LSFARM', false) });
    await receptions(2);
    const daysLater = { ...(await planningOf(rig.station.context)), nowMs: Date.now() + 3 * 86_400_000 };
    const { ways: all } = await proposeWays(daysLater, waysQuestion.parse({ to: 'LSFARM', text: 'On the way' }));
    expect(all.find(({ title }) => title === 'Mesh, to node LSFARM')!.sentences[1]).toContain(
      'It rests on 1 reception, the last 72 h ago.',
    );
  });

  it('to a node that was never heard is a guess, and says so', async () => {
    await heardOverTheRigg(1);
    const { ways: all } = await ways('01D1-0042');
    const way = all.find(({ title }) => title === 'Mesh, to node 01D1-0042')!;
    expect(way.cautions).toContain('That node was not heard yet: it is a guess.');
    expect(way.rests.map(({ heard, inferred }) => heard + inferred)).toContain(0);
    expect(way.arrives.chance).toBeLessThan(0.7);
  });
});
