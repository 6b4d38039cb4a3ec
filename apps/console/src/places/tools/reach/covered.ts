import { areaServed, coverageRows, SERVED, servedBy, type Position, type RadioEnd, type Served } from '@tombolo/core';
import { gridOf, type Area } from './area';
import { drawnCells, landOf, type DrawnCells } from './drawn-cells';

/** What is asked of a picture of where a station is heard. */
export interface CoveredAsked {
  readonly area: Area;
  /** The ground, as the station tells it. */
  readonly heights: string;
  readonly from: Position;
  readonly station: RadioEnd;
  readonly other: RadioEnd;
  readonly frequencyMHz: number;
  readonly neededDbm: number;
}

export type CoveredTold =
  | { readonly what: 'progress'; readonly share: number }
  | {
      readonly what: 'picture';
      readonly land: DrawnCells;
      /** By how well it is served; what is hardly served is left out. */
      readonly served: DrawnCells;
      readonly areaKm2: Readonly<Record<'land' | 'sea', Readonly<Record<Served, number>>>>;
    };

/** Told so often, a bar moves and nothing else is held up. */
const TELLINGS = 50;

/** Where a station is heard, reckoned cell by cell, with its progress. */
export function* covered({ area, heights, neededDbm, ...asked }: CoveredAsked): Generator<CoveredTold> {
  const grid = gridOf(area, { heights });
  const rows: Float32Array[] = [];
  const every = Math.max(1, Math.ceil(grid.rows / TELLINGS));
  for (const { row, receivedDbm } of coverageRows({ grid, ...asked })) {
    rows.push(receivedDbm);
    if (row % every === 0) yield { what: 'progress', share: (row + 1) / grid.rows };
  }
  yield {
    what: 'picture',
    land: landOf(grid),
    served: drawnCells(grid.columns, grid.rows, SERVED.length - 1, (column, row) => {
      const kind = SERVED.indexOf(servedBy(rows[row]![column]! - neededDbm));
      return kind < SERVED.length - 1 ? kind : -1;
    }),
    areaKm2: areaServed(grid, rows, neededDbm),
  };
}
