import type { Tick } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, type Queries } from '../store/database';
import { SheetTickEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { noSuchPiece } from './pieces';

/** No sheet is ticked as often as this. */
const MOST_TICKS = 5000;

const SELECT = `select id, holder, line, value, done, by_whom as by, at from sheet_tick`;
interface TickRow extends Omit<Tick, 'at'> {
  readonly at: Date;
}
const viewOf = (row: TickRow): Tick => ({ ...row, at: row.at.toISOString() });

/** What was ticked on the sheets of a piece, in order. */
export async function listTicks(queries: Queries, pieceId: string): Promise<Tick[]> {
  const [piece] = await rowsOf(queries, 'select 1 from equipment where id = $1', [pieceId]);
  if (!piece) throw noSuchPiece();
  return (await rowsOf<TickRow>(queries, `${SELECT} where piece_id = $1 order by n`, [pieceId])).map(viewOf);
}

/** Keeps who ticked what and when; the same tick twice is one. */
export async function keepTick(
  source: DataSource,
  pieceId: string,
  { by, ...tick }: Omit<Tick, 'at'>,
  at: Date,
): Promise<Tick> {
  return source.transaction(async (manager) => {
    const [piece] = await rowsOf(manager, 'select 1 from equipment where id = $1 for update', [pieceId]);
    if (!piece) throw noSuchPiece();
    const [kept] = await rowsOf<TickRow>(manager, `${SELECT} where id = $1`, [tick.id]);
    if (kept) return viewOf(kept);
    const [count] = await rowsOf<{ n: number }>(
      manager,
      'select count(*)::int as n from sheet_tick where piece_id = $1',
      [pieceId],
    );
    if (count!.n >= MOST_TICKS)
      throw new ProblemError(409, 'list-full', 'The sheet is full', `It keeps at most ${MOST_TICKS} ticks.`);
    await manager.getRepository(SheetTickEntity).insert({ ...tick, pieceId, byWhom: by, at });
    await appendEvents(manager, [{ type: 'equipment', data: { id: pieceId } }], at);
    return { ...tick, by, at: at.toISOString() };
  });
}
