/** A LoRa modem setting. All stations of a mesh share it. */
export interface LoraSetting {
  /** Spreading factor, 7–12. */
  readonly spreadingFactor: number;
  readonly bandwidthHz: number;
  /** Coding rate 4/(4 + n), n from 1 to 4. */
  readonly codingRate: number;
  readonly preambleSymbols: number;
  /** Low data rate optimisation; chosen by the symbol time when left out. */
  readonly lowDataRate?: boolean;
  readonly implicitHeader?: boolean;
  readonly crc?: boolean;
}

/** Low data rate optimisation is on above this symbol time, ms. */
const LONG_SYMBOL_MS = 16;

/** Time of one symbol, ms: 2^SF / B. */
export const loraSymbolMs = ({ spreadingFactor, bandwidthHz }: Pick<LoraSetting, 'spreadingFactor' | 'bandwidthHz'>) =>
  (1000 * 2 ** spreadingFactor) / bandwidthHz;

/**
 * Time on air of a LoRa packet, ms, by the formula of the chip maker's LoRa modem designer's guide:
 * T = (n_preamble + 4.25)·T_sym + n_payload·T_sym.
 */
export function loraAirTimeMs(payloadOctets: number, setting: LoraSetting): number {
  const { spreadingFactor: sf, codingRate, preambleSymbols } = setting;
  const symbolMs = loraSymbolMs(setting);
  const de = (setting.lowDataRate ?? symbolMs > LONG_SYMBOL_MS) ? 1 : 0;
  const ih = setting.implicitHeader ? 1 : 0;
  const crc = (setting.crc ?? true) ? 1 : 0;
  const blocks = Math.ceil((8 * payloadOctets - 4 * sf + 28 + 16 * crc - 20 * ih) / (4 * (sf - 2 * de)));
  const payloadSymbols = 8 + Math.max(blocks * (codingRate + 4), 0);
  return (preambleSymbols + 4.25 + payloadSymbols) * symbolMs;
}

/** Weakest signal that is demodulated, dBm: −174 + 10·log B + NF + SNR, SNR from −7.5 dB (SF7) in steps of 2.5 dB. */
export const loraSensitivityDbm = (
  { spreadingFactor, bandwidthHz }: Pick<LoraSetting, 'spreadingFactor' | 'bandwidthHz'>,
  noiseFigureDb = 6,
): number => -174 + 10 * Math.log10(bandwidthHz) + noiseFigureDb - 7.5 - 2.5 * (spreadingFactor - 7);
