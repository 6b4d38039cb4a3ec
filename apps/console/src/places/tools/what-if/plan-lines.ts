import { percent } from './percent';

/** What one plan comes to, as a column of the table. */
export interface PlanColumn {
  readonly title: string;
  /** Null until it is reckoned. */
  readonly told: PlanTold | null;
}

export interface PlanTold {
  /** As many as there are titles of counts. */
  readonly counts: readonly number[];
  readonly rows: readonly {
    /** Who it is, in each of the plans. */
    readonly id: string;
    readonly title: string;
    readonly chance: number;
    /** Was reached and is no more. */
    readonly cutOff: boolean;
  }[];
}

export interface Line {
  readonly title: string;
  readonly cells: readonly string[];
  /** Which of the cells tell somebody who was reached and is no more. */
  readonly cutOff: readonly boolean[];
}

/** What the table says, line by line: how many, then everybody, the greatest difference first. */
export function linesOf(counts: readonly string[], columns: readonly PlanColumn[]): Line[] {
  const nobody = columns.map(() => false);
  const titles = new Map(
    columns.flatMap(({ told }) => (told?.rows ?? []).map(({ id, title }) => [id, title] as const)),
  );
  const everybody = [...titles].map(([id, title]) => {
    const rows = columns.map(({ told }) => told?.rows.find((row) => row.id === id));
    const chances = rows.flatMap((row) => (row ? [row.chance] : []));
    return {
      id,
      spread: Math.max(...chances) - Math.min(...chances),
      line: {
        title,
        cells: rows.map((row) => (row ? percent(row.chance) : '…')),
        cutOff: rows.map((row) => row?.cutOff ?? false),
      },
    };
  });
  everybody.sort((a, b) => b.spread - a.spread || (a.id < b.id ? -1 : 1));
  return [
    ...counts.map((title, n) => ({
      title,
      cells: columns.map(({ told }) => (told ? String(told.counts[n]) : '…')),
      cutOff: nobody,
    })),
    ...everybody.map(({ line }) => line),
  ];
}
