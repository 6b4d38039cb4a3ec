/** One measured figure against its goal. */
export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly goal: number;
  readonly better: 'more' | 'less';
  /** What was measured, in a few words. */
  readonly note: string;
}

/** Above 1 the goal is met, and by how much. */
export const ratioOf = ({ value, goal, better }: Figure): number => (better === 'more' ? value / goal : goal / value);

const number = (value: number): string =>
  value >= 100 ? Math.round(value).toLocaleString('en').replaceAll(',', ' ') : value.toPrecision(3);

export function lineOf(figure: Figure): string {
  const ratio = ratioOf(figure);
  const bound = figure.better === 'more' ? 'at least' : 'at most';
  return [
    ratio >= 1 ? 'met   ' : 'MISSED',
    `${ratio.toFixed(2)}×`.padStart(8),
    `  ${figure.name}: ${number(figure.value)} ${figure.unit} (${bound} ${number(figure.goal)}); ${figure.note}`,
  ].join('');
}

export const median = (values: readonly number[]): number => quantile(values, 0.5);

export function quantile(values: readonly number[], q: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))]!;
}
