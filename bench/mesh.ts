import { formatNodeNumber } from '../packages/core/src/mesh/number';
import { createMeshAir } from '../packages/stand-ins/src/mesh/air';
import { joinMesh } from '../packages/stand-ins/src/mesh/node';
import { runMeshPerson } from '../packages/stand-ins/src/mesh/people';
import { MESH_RADIO } from '../packages/scenario/src/mesh';
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
      node: formatNodeNumber(Uint8Array.of(1, 0, 0, 0, i)),
      tag: `N${i}`,
      name: `Node ${i}`,
      carrier: i % 10 === 0,
      position: { latitude: 41.1 + (i % 8) * 0.02, longitude: -43.5 + Math.floor(i / 8) * 0.03 },
      heightM: i % 10 === 0 ? 120 : 8,
      batteryPercent: 80,
    };
    const port = joinMesh(world, air, node);
    // A tenth of the hour in this sub-band: sixty nodes need more than a hundredth.
    port.configure({ ...port.setup(), radio: { ...MESH_RADIO, frequencyHz: 869_525_000 } });
    return { node, person: runMeshPerson(world, port, node) };
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
