import { useQuery } from '@tanstack/react-query';
import type { EquipmentFile, KeptPieceView, NewTick, PieceChange } from '@tombolo/contract';
import { equipmentRoutes } from '@tombolo/contract/routes/equipment';
import { ask, urlOf } from '../../../live/ask';

/** What the station knows of equipment. */
export const equipmentAtStation = {
  keep: ({ id, piece }: { id: string; piece: PieceChange }) =>
    ask(equipmentRoutes.keepPiece, { params: { id }, body: piece }),
  remove: ({ id }: KeptPieceView) => ask(equipmentRoutes.removePiece, { params: { id } }),
  readFile: (body: EquipmentFile) => ask(equipmentRoutes.readEquipment, { body }),
  fileUrl: () => urlOf(equipmentRoutes.equipmentFile, {}),
  tick: ({ pieceId, ...body }: NewTick & { pieceId: string }) =>
    ask(equipmentRoutes.tick, { params: { id: pieceId }, body }),
};

export const useEquipment = () =>
  useQuery({ queryKey: ['equipment'], queryFn: () => ask(equipmentRoutes.equipment, {}) });
export const useTicks = (pieceId: string) =>
  useQuery({ queryKey: ['ticks', pieceId], queryFn: () => ask(equipmentRoutes.ticks, { params: { id: pieceId } }) });
