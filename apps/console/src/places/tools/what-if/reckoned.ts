import type { NetView } from '@tombolo/contract';
import {
  changedNet,
  chancesOfReaching,
  differenceOf,
  gridHeightM,
  gridProfile,
  gridStepKm,
  hangingIn,
  netRadioOf,
  PACKET_NEEDS_DBM,
  placeRepeaters,
  reachOver,
  seeded,
  type Change,
  type Difference,
  type HeightGrid,
  type MarginOver,
  type Net,
  type NetRadio,
  type Placement,
  type Position,
} from '@tombolo/core';
import { gridOf, type Area } from '../reach/area';

export interface WhatIfAsked {
  readonly net: NetView;
  /** The ground of the area in which the net lies; null where nobody has told a place. */
  readonly ground: { readonly area: Area; readonly heights: string } | null;
  readonly changes: readonly Change[];
  /** How many digipeaters more are looked for; 0 for none. */
  readonly more: number;
  /** Other plans to be reckoned beside it. */
  readonly beside: readonly (readonly Change[])[];
}

export interface PlanOutcome {
  readonly rows: readonly Difference[];
  /** On whom others hang, as it would be. */
  readonly hanging: ReturnType<typeof hangingIn>;
}

export interface WhatIfOutcome extends PlanOutcome {
  /** Of the other plans, in their order, as many as are reckoned. */
  readonly beside: readonly PlanOutcome[];
}

export type WhatIfTold =
  | { readonly what: 'outcome'; readonly outcome: WhatIfOutcome }
  | { readonly what: 'progress'; readonly done: number; readonly of: number; readonly outcome: WhatIfOutcome }
  | {
      readonly what: 'found';
      readonly places: readonly (Placement & { readonly heightM: number })[];
      readonly of: number;
      readonly outcome: WhatIfOutcome;
    };

/** The same question gives the same answer, and two nets are drawn by the same chances. */
const SEED = 20_261;
/** Digipeaters are thought of at no more places than so many, evenly over the land. */
const MOST_CANDIDATES = 1600;
/** Of packet radio; the next metre band is no other question. */
const PACKET_RADIO: NetRadio = { frequencyMHz: 145, needsDbm: PACKET_NEEDS_DBM };
const TELLINGS = 50;

const netOf = ({ own, mesh, mostRepeats, stations, hops }: NetView): Net => ({
  own: own ?? '',
  radio: mesh ? netRadioOf(mesh) : PACKET_RADIO,
  mostRepeats,
  stations,
  hops,
});

/** What the changes do to the chance of reaching everybody, and where one more digipeater would help most. */
export function* reckoned({ net: view, ground, changes, more, beside }: WhatIfAsked): Generator<WhatIfTold> {
  const grid = ground && gridOf(ground.area, ground);
  const marginOver = marginsOver(grid);
  const before = netOf(view);
  const after = changedNet(before, changes, marginOver);
  const wanted = view.stations.filter((station) => station.wanted).map(({ call }) => call);
  const chances = (net: Net) => chancesOfReaching(net, wanted, () => seeded(SEED));
  const asItIs = chances(before);
  const outcomeOf = (net: Net, thought: readonly Change[]): PlanOutcome => {
    const chance = chances(net);
    return {
      rows: wanted
        .map((call) => differenceOf(call, asItIs(call), chance(call), thought))
        .sort((a, b) => a.after - a.before - (b.after - b.before) || a.after - b.after || (a.call < b.call ? -1 : 1)),
      hanging: hangingIn(net),
    };
  };
  let outcome: WhatIfOutcome = { ...outcomeOf(after, changes), beside: [] };
  yield { what: 'outcome', outcome };
  for (const other of beside) {
    outcome = { ...outcome, beside: [...outcome.beside, outcomeOf(changedNet(before, other, marginOver), other)] };
    yield { what: 'outcome', outcome };
  }
  if (more === 0 || !grid) return;
  const candidates = onLand(grid);
  const there = new Set(after.stations.map(({ call }) => call));
  const search = placeRepeaters(
    {
      net: after,
      targets: wanted.filter((call) => there.has(call)),
      candidates,
      end: view.addedEnd,
      marginOver,
      random: seeded(SEED),
    },
    more,
  );
  const every = Math.max(1, Math.ceil(candidates.length / TELLINGS));
  for (let step = search.next(); ; step = search.next())
    if (step.done) {
      const places = step.value.map((one) => ({
        ...one,
        heightM: gridHeightM(grid, one.place.latitude, one.place.longitude),
      }));
      yield { what: 'found', places, of: candidates.length, outcome };
      return;
    } else if (step.value % every === 0) yield { what: 'progress', done: step.value, of: candidates.length, outcome };
}

/** Without a map everything lies on the sea. */
function marginsOver(grid: HeightGrid | null): MarginOver {
  const sea: HeightGrid = { south: 0, west: 0, north: 1, east: 1, columns: 2, rows: 2, heightsM: new Int16Array(4) };
  const over = grid ?? sea;
  const stepKm = grid ? gridStepKm(grid) : 1;
  return (from, to, { frequencyMHz, needsDbm }) => {
    const profile = gridProfile(over, from.place, to.place, stepKm);
    return reachOver(profile, from.end, to.end, frequencyMHz).receivedDbm - needsDbm;
  };
}

/** Places on land, evenly over a grid. */
function onLand({ columns, rows, heightsM, ...grid }: HeightGrid): Position[] {
  const land = heightsM.reduce((sum, metres) => sum + (metres > 0 ? 1 : 0), 0);
  const stride = Math.max(1, Math.ceil(Math.sqrt(land / MOST_CANDIDATES)));
  const places: Position[] = [];
  for (let row = 0; row < rows; row += stride)
    for (let column = 0; column < columns; column += stride) {
      if (heightsM[row * columns + column]! <= 0) continue;
      places.push({
        latitude: grid.north - (row / (rows - 1)) * (grid.north - grid.south),
        longitude: grid.west + (column / (columns - 1)) * (grid.east - grid.west),
      });
    }
  return places;
}
