/** From one frequency to another, MHz. */
export interface BandMHz {
  readonly fromMHz: number;
  readonly toMHz: number;
}

/** Speeds of a serial line that equipment is found with, Bd. */
export const LINE_SPEEDS_BD = [1200, 2400, 4800, 9600, 19_200, 38_400, 57_600, 115_200] as const;
/** Speeds on the air, Bd. */
export const ON_AIR_SPEEDS_BD = [300, 1200, 9600] as const;

/** A modem inside a radio. */
export interface BuiltInModem {
  /** The receiver that it listens to, where there are two. */
  readonly receiver: 1 | 2;
  readonly onAirBd: (typeof ON_AIR_SPEEDS_BD)[number];
  /** How long its transmitter needs before data. */
  readonly txDelayMs: number;
  /** It goes off by itself when a wireless link to a phone comes up. */
  readonly stopsWithWireless: boolean;
}

/** A radio: what it can do, never who made it. */
export interface Radio {
  readonly kind: 'radio';
  readonly name: string;
  readonly bandsMHz: readonly BandMHz[];
  readonly powerW: number;
  /** Receivers that it has at once. */
  readonly receivers: 1 | 2;
  readonly modem: BuiltInModem | null;
  /** Where it gets its position from: its own receiver, one on its port, or nowhere. */
  readonly positionFrom: 'own' | 'port' | 'none';
  /** It walks through a list of channels and stops on traffic. */
  readonly scans: boolean;
}

/** How something is connected to this computer. */
export type Connection =
  | { readonly by: 'serial'; readonly device: string; readonly speedBd: number }
  | { readonly by: 'tcp'; readonly host: string; readonly port: number };

/** A modem of its own, between a radio and a computer. */
export interface Modem {
  readonly kind: 'modem';
  readonly name: string;
  /** The radio that it keys. */
  readonly radioId: string | null;
  readonly onAirBd: (typeof ON_AIR_SPEEDS_BD)[number];
  readonly txDelayMs: number;
  readonly connection: Connection;
}

export interface Antenna {
  readonly kind: 'antenna';
  readonly name: string;
  /** The radio or node that it is on. */
  readonly onId: string | null;
  readonly bandsMHz: readonly BandMHz[];
  readonly gainDbi: number;
  /** Above the ground. */
  readonly heightM: number;
}

/** A node of a mesh. */
export interface MeshNodePiece {
  readonly kind: 'node';
  readonly name: string;
  readonly tag: string;
  readonly powerW: number;
  /** Repeats for others, or does not. */
  readonly role: 'carrier' | 'terminal';
  readonly positionFrom: 'own' | 'none';
  /** Has a switch that its cell is charged through. */
  readonly chargeSwitch: boolean;
}

/** A position receiver. */
export interface PositionReceiver {
  readonly kind: 'receiver';
  readonly name: string;
  /** Speed at which it talks, whatever listens, Bd. */
  readonly speedBd: (typeof LINE_SPEEDS_BD)[number];
  /** The radio that it feeds; null where it is read by this computer. */
  readonly feedsId: string | null;
}

export interface BatteryCell {
  readonly kind: 'cell';
  readonly name: string;
  readonly capacityAh: number;
  readonly voltageV: number;
  readonly feedsId: string | null;
}

/** A piece of equipment, described by its properties alone. */
export type Piece = Radio | Modem | Antenna | MeshNodePiece | PositionReceiver | BatteryCell;
export type PieceKind = Piece['kind'];
/** A piece as it is kept: others point at it by its identifier. */
export type KeptPiece = Piece & { readonly id: string };

const covers = ({ fromMHz, toMHz }: BandMHz, frequencyMHz: number): boolean =>
  fromMHz <= frequencyMHz && frequencyMHz <= toMHz;
/** Whether a frequency lies in one of the bands. */
export const isInBands = (bandsMHz: readonly BandMHz[], frequencyMHz: number): boolean =>
  bandsMHz.some((band) => covers(band, frequencyMHz));

/** What one piece says of another by its identifier. */
const pointerOf = (piece: Piece): string | null => {
  switch (piece.kind) {
    case 'modem':
      return piece.radioId;
    case 'antenna':
      return piece.onId;
    case 'receiver':
    case 'cell':
      return piece.feedsId;
    default:
      return null;
  }
};

/** Pieces of one kind that belong to another piece. */
export const piecesOn = <K extends PieceKind>(
  id: string,
  kind: K,
  pieces: readonly KeptPiece[],
): Extract<KeptPiece, { kind: K }>[] =>
  pieces.filter((piece): piece is Extract<KeptPiece, { kind: K }> => piece.kind === kind && pointerOf(piece) === id);

/** Kinds that a piece may belong to. */
const OWNERS: Readonly<Partial<Record<PieceKind, readonly PieceKind[]>>> = {
  modem: ['radio'],
  antenna: ['radio', 'node'],
  receiver: ['radio'],
  cell: ['radio', 'node', 'modem', 'receiver'],
};

/** Which of the others a piece may be said to belong to. */
export const ownersFor = (kind: PieceKind, pieces: readonly KeptPiece[]): KeptPiece[] =>
  pieces.filter((piece) => OWNERS[kind]?.includes(piece.kind));

/** Why a piece cannot belong to what it says; null when it can. */
export function faultOfPointer(piece: KeptPiece, pieces: readonly KeptPiece[]): string | null {
  const target = pointerOf(piece);
  if (target === null) return null;
  const owner = pieces.find(({ id }) => id === target);
  if (!owner) return `what “${piece.name}” belongs to is not on the list`;
  if (!OWNERS[piece.kind]?.includes(owner.kind)) return `“${piece.name}” cannot belong to “${owner.name}”`;
  return null;
}
