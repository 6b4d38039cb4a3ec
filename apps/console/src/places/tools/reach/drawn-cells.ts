import type { HeightGrid } from '@tombolo/core';

/** So many cells across are drawn at most: more would be finer than the screen. */
const MOST_ACROSS = 240;

export interface DrawnCells {
  /** Of the picture, in cells. */
  readonly columns: number;
  readonly rows: number;
  /** For each class an SVG path of its cells, row by row. */
  readonly paths: readonly string[];
}

/** Cells of a grid by class as paths, runs of the same class in a row joined; −1 is not drawn. A picture in words of shape: no canvas, so that it prints. */
export function drawnCells(
  columns: number,
  rows: number,
  classes: number,
  classOf: (column: number, row: number) => number,
): DrawnCells {
  const stride = Math.max(1, Math.ceil(Math.max(columns, rows) / MOST_ACROSS));
  const [wide, high] = [Math.ceil(columns / stride), Math.ceil(rows / stride)];
  const paths = Array.from({ length: classes }, () => [] as string[]);
  for (let row = 0; row < high; row++) {
    let start = 0;
    let kind = -1;
    for (let column = 0; column <= wide; column++) {
      const here = column < wide ? classOf(column * stride, row * stride) : -1;
      if (here === kind) continue;
      if (kind >= 0) paths[kind]!.push(`M${start} ${row}h${column - start}v1h${start - column}z`);
      start = column;
      kind = here;
    }
  }
  return { columns: wide, rows: high, paths: paths.map((parts) => parts.join('')) };
}

/** The land of an area. */
export const landOf = ({ columns, rows, heightsM }: HeightGrid): DrawnCells =>
  drawnCells(columns, rows, 1, (column, row) => (heightsM[row * columns + column]! > 0 ? 0 : -1));
