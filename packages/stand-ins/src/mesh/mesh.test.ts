import {
  DUTY_WINDOW_MS,
  decodeMeshFrame,
  encodeMeshContent,
  encodeMeshFrame,
  EVERYBODY,
  octetsOfText,
} from '@tombolo/core';
import { MESH_RADIO, MESH_ROOT, meshNodes, type DistrictNode } from '@tombolo/scenario';
import mqtt from 'mqtt';
import { runDistrict } from '../run-district';
import { createWorld } from '../sim/world';
import { createMeshAir } from './air';
import { joinMesh, type MeshPort, type MeshTransmission } from './node';
import { runMeshPerson } from './people';

const START = Date.UTC(2026, 0, 5, 12);
const { school, rigg, farm, clinic } = meshNodes;

/** Nobody tells of himself: only what the test sends is on the air. */
const quiet = (port: MeshPort): MeshPort => {
  port.configure({ ...port.setup(), mark: null });
  return port;
};

const frameOf = (sender: string, n: number, hopsLeft: number, text = 'Hello'): Uint8Array => {
  const frame = encodeMeshFrame({
    sealed: false,
    mark: '0000',
    sender,
    addressee: EVERYBODY,
    number: n.toString(16).padStart(8, '0'),
    hopsLeft,
    hops: 0,
    body: encodeMeshContent({ kind: 'text', n: String(n), text }),
  });
  if (!frame.ok) throw new Error(frame.error.reason);
  return frame.value;
};

/** Nodes all in one place, so that each hears each. */
const around = (count: number, carriers: number): DistrictNode[] =>
  Array.from({ length: count }, (_, i) => ({
    ...farm,
    node: `01D2-000${i}`,
    tag: `N${i}`,
    carrier: i < carriers,
  }));

describe('the mesh of the district', () => {
  it('floods within the hop limit, tells how far it came, and is the same for the same seed', () => {
    const story = (seed: string, hopsLeft: number) => {
      const world = createWorld(START, seed);
      // A chain of three: the ends hear the middle alone.
      const apart = new Set([`${school.node}/${farm.node}`, `${farm.node}/${school.node}`]);
      const air = createMeshAir(world, (from, to) => (apart.has(`${from}/${to}`) ? 200 : 0));
      const heard: string[] = [];
      const ports = [school, rigg, farm].map((node) => quiet(joinMesh(world, air, node)));
      ports.forEach((port, i) =>
        port.onFrame(({ frame, snrDb }) => {
          const decoded = decodeMeshFrame(frame);
          if (decoded.ok) heard.push(`${'abc'[i]}: ${decoded.value.number} hops ${decoded.value.hops}`);
          // No receiver reports more, however near.
          expect(snrDb).toBeLessThanOrEqual(12);
          expect(snrDb).toBeGreaterThanOrEqual(-20);
        }),
      );
      for (let n = 0; n < 5; n++) world.after(n * 10_000, () => ports[0]!.send(frameOf(school.node, n, hopsLeft)));
      world.runUntil(START + 120_000);
      return heard;
    };
    const heard = story('one', 2);
    expect(heard).toEqual(story('one', 2));
    expect(heard.filter((line) => /^c: .* hops 1$/.test(line)).length).toBeGreaterThan(0);
    // The sender hears its own packet repeated.
    expect(heard.some((line) => /^a: .* hops 1$/.test(line))).toBe(true);
    expect(story('one', 0).some((line) => line.startsWith('c:'))).toBe(false);
  });

  it('is silent after two others repeated: in a room of many only about two do, and carriers before terminals', () => {
    const world = createWorld(START, 'room');
    const air = createMeshAir(world, () => 0);
    const nodes = around(9, 3);
    const repeats: { carrier: boolean; atMs: number; packet: string }[] = [];
    const ports = nodes.map((node) => {
      const port = quiet(joinMesh(world, air, node));
      port.onTransmitted(({ frame, cause }) => {
        const decoded = decodeMeshFrame(frame);
        if (cause === 'repeat' && decoded.ok)
          repeats.push({ carrier: node.carrier, atMs: world.now(), packet: decoded.value.number });
      });
      return port;
    });
    const packets = 12;
    for (let n = 0; n < packets; n++) world.after(n * 30_000, () => ports[8]!.send(frameOf(nodes[8]!.node, n, 1)));
    world.runUntil(START + packets * 30_000 + 30_000);
    expect(new Set(repeats.map(({ packet }) => packet)).size).toBe(packets);
    // Two that begin in the same slot do not hear each other: seldom more than two repeat, never nearly all.
    expect(repeats.length / packets).toBeGreaterThanOrEqual(2);
    expect(repeats.length / packets).toBeLessThan(3.5);
    expect(repeats.filter(({ carrier }) => carrier).length / repeats.length).toBeGreaterThan(0.8);
  });

  it('is carried by terminals where there is no carrier', () => {
    const world = createWorld(START, 'terminals');
    const air = createMeshAir(world, () => 0);
    const nodes = around(3, 0);
    const repeats: MeshTransmission[] = [];
    const ports = nodes.map((node) => {
      const port = quiet(joinMesh(world, air, node));
      port.onTransmitted((transmission) => transmission.cause === 'repeat' && repeats.push(transmission));
      return port;
    });
    ports[0]!.send(frameOf(nodes[0]!.node, 1, 1));
    world.runUntil(START + 30_000);
    expect(repeats.length).toBeGreaterThan(0);
  });

  it('is heard by those of the same frequency and setting alone', () => {
    const world = createWorld(START, 'settings');
    const air = createMeshAir(world, () => 0);
    const [a, b, c] = around(3, 0).map((node) => quiet(joinMesh(world, air, node))) as [MeshPort, MeshPort, MeshPort];
    c.configure({ ...c.setup(), radio: { ...MESH_RADIO, spreadingFactor: 10 } });
    const heard: string[] = [];
    b.onFrame(() => heard.push('b'));
    c.onFrame(() => heard.push('c'));
    for (let n = 0; n < 5; n++) world.after(n * 20_000, () => a.send(frameOf(a.node, n, 0)));
    world.runUntil(START + 120_000);
    expect(heard).toContain('b');
    expect(heard).not.toContain('c');
  });

  it('that is told to be silent hears, and neither repeats nor announces nor sends', () => {
    const world = createWorld(START, 'silent');
    const air = createMeshAir(world, () => 0);
    const [a, b] = around(2, 2).map((node) => joinMesh(world, air, node)) as [MeshPort, MeshPort];
    quiet(a);
    b.configure({ ...b.setup(), silent: true });
    let heard = 0;
    let sent = 0;
    b.onFrame(() => heard++);
    b.onTransmitted(() => sent++);
    for (let n = 0; n < 5; n++) world.after(n * 20_000, () => a.send(frameOf(a.node, n, 3)));
    expect(b.send(frameOf(b.node, 9, 3))).toBe(false);
    world.runUntil(START + 3_600_000);
    expect(heard).toBeGreaterThan(0);
    expect(sent).toBe(0);
  });

  it('keeps to its share of the hour, whatever it is given', () => {
    const world = createWorld(START, 'duty');
    const air = createMeshAir(world, () => 0);
    const [node] = around(1, 0) as [DistrictNode];
    const port = quiet(joinMesh(world, air, node));
    const spent: { atMs: number; ms: number }[] = [];
    port.onTransmitted(({ ms }) => spent.push({ atMs: world.now(), ms }));
    for (let n = 0; n < 500; n++) world.after(n * 10_000, () => port.send(frameOf(node.node, n, 0, 'x'.repeat(100))));
    world.runUntil(START + 5_400_000);
    for (const { atMs } of spent) {
      const inHour = spent.filter((one) => one.atMs <= atMs && one.atMs > atMs - DUTY_WINDOW_MS);
      expect(inHour.reduce((sum, { ms }) => sum + ms, 0)).toBeLessThanOrEqual(36_000);
    }
    expect(spent.length).toBeGreaterThan(50);
  });

  it('tells its account of the hour by the clock of what happened: hours that were run at once are not one minute', async () => {
    const running = await runDistrict({ seed: 'account', quiet: true });
    const client = await mqtt.connectAsync({ host: '127.0.0.1', port: running.ports.mesh, protocolVersion: 4 });
    try {
      const told = new Promise<{ minutes: { at: string; ms: number }[] }>((resolve) =>
        client.on('message', (_topic, octets) => resolve(JSON.parse(octets.toString()))),
      );
      await client.subscribeAsync(`${MESH_ROOT}/${school.node}/account`);
      const { minutes } = await told;
      expect(minutes.length).toBeGreaterThan(3);
      for (const { at, ms } of minutes) {
        expect(ms).toBeLessThan(5000);
        expect(Date.now() - Date.parse(at)).toBeLessThan(63 * 60_000);
      }
      // In any hour no more than its share.
      expect(minutes.reduce((sum, { ms }) => sum + ms, 0)).toBeLessThan(36_000);
    } finally {
      await client.endAsync(true);
      await running.stop();
    }
  });

  it('announces itself at its interval, its role and place with it', () => {
    const world = createWorld(START, 'announce');
    const air = createMeshAir(world, () => 0);
    const port = joinMesh(world, air, rigg);
    port.configure({ ...port.setup(), announceMin: 20 });
    let announced = 0;
    port.onTransmitted(({ cause }) => void (cause === 'announcement' && announced++));
    world.runUntil(START + 3 * 3_600_000);
    expect(announced).toBeGreaterThanOrEqual(8);
    expect(announced).toBeLessThanOrEqual(10);
  });

  it('delivers sealed texts to who holds the key, once, and stops when they are acknowledged', () => {
    const world = createWorld(START, 'sealed');
    const air = createMeshAir(world, () => 0);
    const seen: string[] = [];
    const listener = quiet(joinMesh(world, air, rigg));
    listener.onFrame(({ frame }) => seen.push(Buffer.from(frame).toString('latin1')));
    const ports = [farm, clinic].map((node) => joinMesh(world, air, node));
    const writer = runMeshPerson(world, ports[0]!, farm);
    const reader = runMeshPerson(world, ports[1]!, clinic);
    writer.write(clinic.node, 'How is the child?', true);
    world.runUntil(START + 300_000);
    expect(reader.received).toEqual([{ from: farm.node, text: 'How is the child?' }]);
    expect(writer.received).toEqual([]);
    // Nobody else reads it on the air.
    const words = Buffer.from(octetsOfText('How is the child?')).toString('latin1');
    expect(seen.some((frame) => frame.includes(words))).toBe(false);
  });
});
