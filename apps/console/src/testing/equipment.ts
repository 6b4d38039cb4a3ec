import type { KeptPieceView } from '@tombolo/contract';

type Of<K extends KeptPieceView['kind']> = Extract<KeptPieceView, { kind: K }>;

/** Pieces as the tests of the console use them. */
export const HAND_HELD: Of<'radio'> = {
  id: '7d4c1a52-2f9a-4a53-9a51-0d6a7a1b2c01',
  kind: 'radio',
  name: 'Hand-held',
  bandsMHz: [{ fromMHz: 144, toMHz: 148 }],
  powerW: 5,
  receivers: 2,
  modem: { receiver: 1, onAirBd: 1200, txDelayMs: 600, stopsWithWireless: true },
  positionFrom: 'own',
  scans: false,
};
export const WHIP: Of<'antenna'> = {
  id: '7d4c1a52-2f9a-4a53-9a51-0d6a7a1b2c02',
  kind: 'antenna',
  name: 'Whip',
  onId: HAND_HELD.id,
  bandsMHz: [],
  gainDbi: 0,
  heightM: 1.5,
};
