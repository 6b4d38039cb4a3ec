import {
  beliefOf,
  changedNet,
  chancesOfReaching,
  coverageRows,
  gridProfile,
  gridStepKm,
  hangingIn,
  MESH_END,
  netRadioOf,
  OUR_END,
  PACKET_NEEDS_DBM,
  reachOver,
  seeded,
  USUAL_END,
  type HeightGrid,
  type MarginOver,
  type Net,
} from '@tombolo/core';
import { median, type Figure } from './figure';

/** A hundred kilometres each way, a point every hundred metres. */
const SIDE = 1001;
const HALF_NORTH_DEG = 0.45;
const HALF_EAST_DEG = 0.6;
const CENTRE = { latitude: 41.2, longitude: -43.4 };
const PEOPLE = 100;
const REPEATERS = 8;
const NODES = 30;
const MESH = { frequencyHz: 868_300_000, spreadingFactor: 9, bandwidthHz: 125_000 };
const ROUNDS = 5;
const FREQUENCY_MHZ = 145;

/** Hills and valleys, half of it under water. */
const grid: HeightGrid = {
  south: CENTRE.latitude - HALF_NORTH_DEG,
  north: CENTRE.latitude + HALF_NORTH_DEG,
  west: CENTRE.longitude - HALF_EAST_DEG,
  east: CENTRE.longitude + HALF_EAST_DEG,
  columns: SIDE,
  rows: SIDE,
  heightsM: Int16Array.from({ length: SIDE * SIDE }, (_, n) =>
    Math.max(0, Math.round(200 * Math.sin(Math.floor(n / SIDE) / 40) * Math.cos((n % SIDE) / 55))),
  ),
};

/** A net of people around some repeaters, everybody somewhere else. */
function netOf(random: () => number): Net {
  const place = () => ({
    latitude: CENTRE.latitude + (random() - 0.5) * HALF_NORTH_DEG,
    longitude: CENTRE.longitude + (random() - 0.5) * HALF_EAST_DEG,
  });
  const station = (call: string, repeats: boolean) => ({
    call,
    place: place(),
    repeats,
    end: call === 'us' ? OUR_END : USUAL_END,
  });
  const stations = [
    station('us', false),
    ...Array.from({ length: REPEATERS }, (_, n) => station(`r${n}`, true)),
    ...Array.from({ length: PEOPLE }, (_, n) => station(`p${n}`, false)),
  ];
  const hops = stations.flatMap((from) =>
    stations.flatMap((to) =>
      from === to || !(from.repeats || to.repeats)
        ? []
        : [{ from: from.call, to: to.call, belief: beliefOf(0.2 + 0.7 * random(), 4) }],
    ),
  );
  return { own: 'us', radio: { frequencyMHz: FREQUENCY_MHZ, needsDbm: PACKET_NEEDS_DBM }, stations, hops };
}

/** A mesh in which every node may hear every other, somehow. */
function meshOf(random: () => number): Net {
  const stations = Array.from({ length: NODES }, (_, n) => ({
    call: n === 0 ? 'us' : `n${n}`,
    place: {
      latitude: CENTRE.latitude + (random() - 0.5) * 0.2,
      longitude: CENTRE.longitude + (random() - 0.5) * 0.3,
    },
    repeats: true,
    end: MESH_END,
  }));
  const hops = stations.flatMap((from) =>
    stations.flatMap((to) =>
      from === to || random() < 0.5 ? [] : [{ from: from.call, to: to.call, belief: beliefOf(0.6 * random(), 3) }],
    ),
  );
  return { own: 'us', radio: netRadioOf(MESH), mostRepeats: 4, stations, hops };
}

const secondsOf = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return (performance.now() - start) / 1000;
};

/** Where a station is heard, and what a change does to a hundred people. */
export async function whatIf(): Promise<Figure[]> {
  const end = { antennaM: 10, powerW: 10, gainDbi: 2, clutterDb: 0 };
  const longestRow = { seconds: 0 };
  const coverage = secondsOf(() => {
    const rows = coverageRows({ grid, from: CENTRE, station: end, other: end, frequencyMHz: FREQUENCY_MHZ });
    for (let step = { done: false }; !step.done;)
      longestRow.seconds = Math.max(
        longestRow.seconds,
        secondsOf(() => (step = rows.next() as { done: boolean })),
      );
  });
  const stepKm = gridStepKm(grid);
  const marginOver: MarginOver = (from, to, { frequencyMHz, needsDbm }) =>
    reachOver(gridProfile(grid, from.place, to.place, stepKm), from.end, to.end, frequencyMHz).receivedDbm - needsDbm;
  const net = netOf(seeded(7));
  const changes = Array.from({ length: ROUNDS }, (_, n) =>
    secondsOf(() => {
      const after = changedNet(
        net,
        [
          { what: 'off', call: `r${n}` },
          { what: 'changed', call: `r${n + 1}`, place: CENTRE, end },
        ],
        marginOver,
      );
      chancesOfReaching(
        after,
        net.stations.map(({ call }) => call),
        () => seeded(1),
      );
    }),
  );
  const mesh = meshOf(seeded(11));
  const set = Array.from({ length: ROUNDS }, (_, n) =>
    secondsOf(() => {
      const radio = { what: 'radio' as const, ...MESH, spreadingFactor: 8 + n, powerW: null };
      const after = changedNet(mesh, [radio], marginOver);
      chancesOfReaching(
        after,
        mesh.stations.map(({ call }) => call),
        () => seeded(1),
      );
      hangingIn(after);
    }),
  );
  return [
    {
      name: 'Coverage of 100 by 100 km at 100 m',
      value: coverage,
      unit: 's',
      goal: 10,
      better: 'less',
      note: `${SIDE * SIDE} places, profiles of up to 97 points; the longest row ${(1000 * longestRow.seconds).toFixed(0)} ms`,
    },
    {
      name: `What a change does to ${PEOPLE} people over ${REPEATERS} digipeaters`,
      value: median(changes),
      unit: 's',
      goal: 2,
      better: 'less',
      note: `one digipeater off and one moved; ${net.hops.length} hops, states sampled; the slowest ${Math.max(...changes).toFixed(2)} s`,
    },
    {
      name: `What another setting does to a mesh of ${NODES} nodes, all of which repeat`,
      value: median(set),
      unit: 's',
      goal: 2,
      better: 'less',
      note: `every link reckoned anew over the ground, the flood sampled; ${mesh.hops.length} hops; the slowest ${Math.max(...set).toFixed(2)} s`,
    },
  ];
}
