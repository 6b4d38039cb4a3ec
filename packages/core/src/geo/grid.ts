import { bearingBetween, pointAt, type Position } from './geodesic';
import { locatorOf } from './locator';

/** A part of the world, degrees; `west` < `east`. */
export interface Bounds {
  readonly west: number;
  readonly south: number;
  readonly east: number;
  readonly north: number;
}

/** A line of a grid with the text that belongs to it. */
export interface GridLine {
  readonly points: readonly (readonly [longitude: number, latitude: number])[];
  readonly label: string;
}

const STEPS_DEG = [30, 15, 10, 5, 2, 1, 0.5, 1 / 6, 1 / 12, 1 / 30, 1 / 60];

/** How many lines a chart has room for, across and up. */
export interface GridRoom {
  readonly across: number;
  readonly up: number;
}

const USUAL_ROOM: GridRoom = { across: 12, up: 12 };

/** The finest step of the graticule for which there is room, degrees. */
export function graticuleStep({ west, east, south, north }: Bounds, room = USUAL_ROOM): number {
  let step: number = STEPS_DEG[0]!;
  for (const finer of STEPS_DEG)
    if ((east - west) / finer <= room.across && (north - south) / finer <= room.up) step = finer;
  return step;
}

/** Minutes where the step is less than a degree: `41° 10′ N`. */
function angleLabel(value: number, positive: string, negative: string): string {
  const minutes = Math.round(Math.abs(value) * 60);
  const degrees = Math.floor(minutes / 60);
  const rest = minutes - degrees * 60;
  const side = minutes === 0 ? '' : ` ${value < 0 ? negative : positive}`;
  return rest === 0 ? `${degrees}°${side}` : `${degrees}° ${String(rest).padStart(2, '0')}′${side}`;
}

const multiples = (from: number, to: number, step: number): number[] => {
  const values = [];
  for (let n = Math.ceil(from / step - 1e-9); n * step <= to + 1e-9; n++) values.push(n * step);
  return values;
};

/** Parallels and meridians inside the bounds. */
export function graticule(bounds: Bounds, room = USUAL_ROOM): GridLine[] {
  const step = graticuleStep(bounds, room);
  const { west, east } = bounds;
  const [south, north] = [Math.max(-85, bounds.south), Math.min(85, bounds.north)];
  return [
    ...multiples(west, east, step).map((x) => ({
      points: [[x, south] as const, [x, north] as const],
      label: angleLabel(((((x + 180) % 360) + 360) % 360) - 180, 'E', 'W'),
    })),
    ...multiples(south, north, step).map((y) => ({
      points: [[west, y] as const, [east, y] as const],
      label: angleLabel(y, 'N', 'S'),
    })),
  ];
}

/** Sizes of locator squares by their number of characters, degrees of longitude and latitude. */
const SQUARES = [
  { characters: 2, width: 20, height: 10 },
  { characters: 4, width: 2, height: 1 },
  { characters: 6, width: 2 / 24, height: 1 / 24 },
] as const;

export interface LocatorSquare {
  readonly locator: string;
  readonly west: number;
  readonly south: number;
  readonly width: number;
  readonly height: number;
}

/** The locator squares in sight, of the finest kind of which no more than 400 are (Maidenhead, IARU Region 1, 1980). */
export function locatorSquares({ west, east, south, north }: Bounds): LocatorSquare[] {
  let chosen: (typeof SQUARES)[number] = SQUARES[0];
  for (const kind of SQUARES)
    if (((east - west) / kind.width + 1) * ((north - south) / kind.height + 1) <= 400) chosen = kind;
  const { width, height, characters } = chosen;
  const squares: LocatorSquare[] = [];
  for (let x = Math.floor(west / width) * width; x < east - 1e-9; x += width)
    for (let y = Math.max(-90, Math.floor(south / height) * height); y < Math.min(90, north) - 1e-9; y += height) {
      // The middle, so that rounding cannot push it into the neighbour.
      const longitude = ((((x + width / 2 + 180) % 360) + 360) % 360) - 180;
      const locator = locatorOf({ latitude: y + height / 2, longitude }, characters === 2 ? 4 : characters);
      squares.push({ locator: locator.slice(0, characters), west: x, south: y, width, height });
    }
  return squares;
}

const RING_STEPS_KM = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000];

/** Radii of three range rings that fit a view of the given half width, km, in round numbers of the chosen unit. */
export function ringRadiiKm(halfWidthKm: number, kmPerUnit = 1): number[] {
  const step = [...RING_STEPS_KM].reverse().find((n) => n * 3 * kmPerUnit <= halfWidthKm) ?? RING_STEPS_KM[0]!;
  return [1, 2, 3].map((n) => n * step * kmPerUnit);
}

/** A circle on the ellipsoid as a closed line. */
export function ring(centre: Position, radiusKm: number, points = 96): (readonly [number, number])[] {
  const line: (readonly [number, number])[] = [];
  for (let i = 0; i <= points; i++) {
    const { latitude, longitude } = pointAt(centre, (360 * i) / points, radiusKm);
    // Kept beside the centre, so that a ring over the antimeridian does not run around the world.
    const turns = Math.round((centre.longitude - longitude) / 360);
    line.push([longitude + 360 * turns, latitude]);
  }
  return line;
}

/** The shortest line between two points, for drawing. */
export function geodesicLine(from: Position, to: Position, pieces = 32): (readonly [number, number])[] {
  const { distanceKm, azimuthDeg } = bearingBetween(from, to);
  const line: (readonly [number, number])[] = [];
  for (let i = 0; i <= pieces; i++) {
    const { latitude, longitude } = pointAt(from, azimuthDeg, (distanceKm * i) / pieces);
    const turns = Math.round((from.longitude - longitude) / 360);
    line.push([longitude + 360 * turns, latitude]);
  }
  return line;
}
