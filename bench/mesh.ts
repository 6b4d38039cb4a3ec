import { createMeshAir } from '../packages/stand-ins/src/mesh/mesh';
import { runMeshPerson } from '../packages/stand-ins/src/mesh/people';
import { createWorld } from '../packages/stand-ins/src/sim/world';
import type { Figure } from './figure';

const NODES = 60;
const HOURS = 2;

/** A mesh of sixty nodes that announce and text: how many times faster than real time it runs. */
export async function mesh(): Promise<Figure[]> {
  const world = createWorld(0, 'mesh');
  const air = createMeshAir(world, () => 0);
  const people = Array.from({ length: NODES }, (_, i) => {
    const node = {
      node: (0x5a200000 + i).toString(16),
      short: `N${i}`,
      long: `Node ${i}`,
      router: i % 10 === 0,
      position: { latitude: 41.1 + (i % 8) * 0.02, longitude: -43.5 + Math.floor(i / 8) * 0.03 },
      heightM: i % 10 === 0 ? 120 : 8,
      batteryPercent: 80,
    };
    return { node, person: runMeshPerson(world, air.join(node), node) };
  });
  const chance = world.random('texts');
  for (let minute = 1; minute < HOURS * 60; minute++)
    world.after(minute * 60_000, () => {
      const from = people[Math.floor(chance() * NODES)]!;
      const to = people[Math.floor(chance() * NODES)]!;
      if (from !== to) from.person.write(to.node.node, `Report ${minute}`);
    });
  const start = performance.now();
  world.runUntil(HOURS * 3600_000);
  const seconds = (performance.now() - start) / 1000;
  const received = people.reduce((sum, { person }) => sum + person.received.length, 0);
  return [
    {
      name: 'Mesh stand-in',
      value: (HOURS * 3600) / seconds,
      unit: '× real time',
      goal: 60,
      better: 'more',
      note: `${NODES} nodes over ${HOURS} h: ${air.transmissions()} transmissions, ${received} of ${HOURS * 60 - 1} texts arrived`,
    },
  ];
}
