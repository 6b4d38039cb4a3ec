import { counted, type KeptPiece, type PieceKind } from '@tombolo/core';

export const PIECE_KIND_WORDS: Readonly<Record<PieceKind, { title: string; hint: string }>> = {
  radio: { title: 'Radio', hint: 'With or without a modem inside.' },
  modem: { title: 'Modem', hint: 'A box, or a program, between a radio and this computer.' },
  antenna: { title: 'Antenna', hint: 'Without one nothing may go out.' },
  node: { title: 'Mesh node', hint: 'A small radio of the mesh.' },
  receiver: { title: 'Position receiver', hint: 'Tells a radio or this computer where it is.' },
  cell: { title: 'Cell', hint: 'What feeds one of the others.' },
};

const bandWords = (piece: { bandsMHz: readonly { fromMHz: number; toMHz: number }[] }): string[] =>
  piece.bandsMHz.length > 0
    ? [`${piece.bandsMHz.map(({ fromMHz, toMHz }) => `${fromMHz}–${toMHz}`).join(', ')} MHz`]
    : [];
const ownerWords = (words: string, id: string | null, pieces: readonly KeptPiece[]): string[] => {
  const owner = pieces.find((one) => one.id === id);
  return owner ? [`${words} ${owner.name}`] : [];
};

/** What is known of a piece, in one line. */
export function pieceWords(piece: KeptPiece, pieces: readonly KeptPiece[]): string {
  switch (piece.kind) {
    case 'radio':
      return [
        ...bandWords(piece),
        `${piece.powerW} W`,
        piece.modem
          ? `modem inside, ${piece.modem.onAirBd} Bd, transmit delay ${piece.modem.txDelayMs} ms`
          : 'no modem inside',
        ...(piece.receivers === 2 ? [counted(2, 'receiver')] : []),
      ].join(' · ');
    case 'modem':
      return [
        piece.connection.by === 'serial'
          ? `${piece.connection.device}, ${piece.connection.speedBd} Bd`
          : `${piece.connection.host}:${piece.connection.port}`,
        `${piece.onAirBd} Bd on the air`,
        ...ownerWords('keys', piece.radioId, pieces),
      ].join(' · ');
    case 'antenna':
      return [
        ...bandWords(piece),
        `${piece.gainDbi} dBi`,
        `${piece.heightM} m high`,
        ...ownerWords('on', piece.onId, pieces),
      ].join(' · ');
    case 'node':
      return [piece.tag, `${piece.powerW} W`, piece.role].join(' · ');
    case 'receiver':
      return [`${piece.speedBd} Bd`, ...ownerWords('feeds', piece.feedsId, pieces)].join(' · ');
    case 'cell':
      return [
        `${piece.capacityAh} Ah, ${piece.voltageV} V: ${Math.round(piece.capacityAh * piece.voltageV)} Wh`,
        ...ownerWords('feeds', piece.feedsId, pieces),
      ].join(' · ');
  }
}
