import { EQUIPMENT_FORMAT, MOST_PIECES, type EquipmentFile, type KeptPieceView } from '@tombolo/contract';
import { faultOfPointer, type KeptPiece, type Piece } from '@tombolo/core';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../problem-error';
import { rowsOf, touchedBy, type Queries } from '../store/database';
import { EquipmentEntity } from '../store/entities';
import { appendEvents } from '../store/events';
import { EQUIPMENT_LOCK } from '../store/locks';

/** All pieces, in the order in which they came to the list; what one says of a piece that is gone is left out. */
export async function listPieces(queries: Queries): Promise<KeptPieceView[]> {
  const rows = await rowsOf<{ id: string; piece: Piece }>(
    queries,
    'select id, piece from equipment order by created_at, id',
  );
  return rows.map(({ id, piece }) => ({ id, ...piece }) as KeptPieceView);
}

/** Adds pieces or replaces what is known of them; all of them or none, one change at a time. */
async function keepAll(source: DataSource, pieces: readonly KeptPiece[], at: Date): Promise<KeptPieceView[]> {
  return source.transaction(async (manager) => {
    await oneAtATime(manager);
    const before = await listPieces(manager);
    const changed = new Set(pieces.map(({ id }) => id));
    const after = [...before.filter(({ id }) => !changed.has(id)), ...pieces];
    if (after.length > MOST_PIECES)
      throw new ProblemError(409, 'list-full', 'The list is full', `It holds at most ${MOST_PIECES} pieces.`);
    for (const piece of after) {
      const fault = faultOfPointer(piece, after);
      if (fault) throw new ProblemError(422, 'invalid', 'Something in it does not fit', fault);
    }
    const known = new Set(before.map(({ id }) => id));
    const repository = manager.getRepository(EquipmentEntity);
    for (const [n, { id, ...piece }] of pieces.entries())
      if (known.has(id)) await repository.update({ id }, { piece });
      // A millisecond apart, so that a file keeps its order.
      else await repository.insert({ id, piece, createdAt: new Date(at.getTime() + n) });
    await appendEvents(
      manager,
      pieces.map(({ id }) => ({ type: 'equipment' as const, data: { id } })),
      at,
    );
    return listPieces(manager);
  });
}

const oneAtATime = (manager: EntityManager) => manager.query('select pg_advisory_xact_lock($1)', [EQUIPMENT_LOCK]);

export async function keepPiece(source: DataSource, piece: KeptPiece, at: Date): Promise<KeptPieceView> {
  const all = await keepAll(source, [piece], at);
  return all.find(({ id }) => id === piece.id)!;
}

export const readEquipmentFile = (source: DataSource, file: EquipmentFile, at: Date): Promise<KeptPieceView[]> =>
  keepAll(source, file.pieces, at);

export const writeEquipmentFile = async (queries: Queries): Promise<EquipmentFile> => ({
  format: EQUIPMENT_FORMAT,
  version: 1,
  pieces: await listPieces(queries),
});

/** Removes a piece, with what was ticked on its sheets; what belonged to it stays and belongs to nothing. */
export async function removePiece(source: DataSource, id: string, at: Date): Promise<void> {
  await source.transaction(async (manager) => {
    await oneAtATime(manager);
    if ((await touchedBy(manager, 'delete from equipment where id = $1', [id])) === 0) throw noSuchPiece();
    for (const pointer of ['radioId', 'onId', 'feedsId'])
      await manager.query(`update equipment set piece = jsonb_set(piece, array[$2], 'null') where piece->>$2 = $1`, [
        id,
        pointer,
      ]);
    await appendEvents(manager, [{ type: 'equipment', data: { id } }], at);
  });
}

export const noSuchPiece = () =>
  new ProblemError(404, 'no-such-piece', 'Not on the list', 'No piece of that identifier is on the list.');
