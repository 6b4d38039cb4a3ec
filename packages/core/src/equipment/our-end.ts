import { OUR_END } from '../planner/map-belief';
import type { RadioEnd } from '../reach/link-budget';
import { isInBands, type KeptPiece } from './piece';

/**
 * How our station stands on the air at a frequency, by its equipment: the set of that band that is used for packets – it has a modem, or a
 * modem keys it – with the antenna that is on it. Null where none is listed with an antenna for that band. What stands around the antenna is
 * on no list: it is taken for usual.
 */
export function ourEndOf(pieces: readonly KeptPiece[], frequencyMHz: number): RadioEnd | null {
  const keyed = new Set(pieces.flatMap((piece) => (piece.kind === 'modem' ? [piece.radioId] : [])));
  const ends = pieces.flatMap((radio) => {
    if (radio.kind !== 'radio' || !isInBands(radio.bandsMHz, frequencyMHz)) return [];
    const antenna = pieces.find(
      (piece) => piece.kind === 'antenna' && piece.onId === radio.id && isInBands(piece.bandsMHz, frequencyMHz),
    );
    if (antenna?.kind !== 'antenna') return [];
    const { heightM, gainDbi } = antenna;
    const end = { antennaM: heightM, powerW: radio.powerW, gainDbi, clutterDb: OUR_END.clutterDb };
    return [{ end, packets: radio.modem !== null || keyed.has(radio.id) }];
  });
  return (ends.find(({ packets }) => packets) ?? ends[0])?.end ?? null;
}
