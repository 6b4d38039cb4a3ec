import { toBase91 } from '../base91';
import type { Symbol } from '../symbol';
import { encodeWeather, type Weather } from '../weather';

/** What to put on the air; altitude is given in feet as the format carries it. */
export interface PositionToSend {
  readonly latitude: number;
  readonly longitude: number;
  /** Digits of the minutes to leave blank, 0–4; plain form only. */
  readonly ambiguity?: number;
  readonly symbol: Symbol;
  readonly courseDeg?: number;
  readonly speedKnots?: number;
  readonly altitudeFt?: number;
  readonly weather?: Weather;
  /** Behind the position: PHG, RNG and the like as encoded by their own functions. */
  readonly extension?: string;
  readonly comment?: string;
}

/** Degrees as `DDMM.hh` + hemisphere, rounded to a hundredth of a minute with carry; `blanks` digits are left out. */
function encodeAngle(degrees: number, degreeDigits: 2 | 3, positive: string, negative: string, blanks: number) {
  // What is left blank must be cut, not rounded: the true position lies inside what remains.
  const exact = Math.abs(degrees) * 6000;
  const hundredths = blanks > 0 ? Math.floor(exact + 1e-6) : Math.round(exact);
  const whole = Math.floor(hundredths / 6000);
  const minutes = String(hundredths - whole * 6000).padStart(4, '0');
  const kept = minutes.slice(0, 4 - blanks).padEnd(4, ' ');
  const hemisphere = degrees < 0 ? negative : positive;
  return `${String(whole).padStart(degreeDigits, '0')}${kept.slice(0, 2)}.${kept.slice(2)}${hemisphere}`;
}

const altitudeText = (feet: number | undefined): string => {
  if (feet === undefined) return '';
  const digits = String(Math.min(999999, Math.abs(Math.round(feet))));
  return feet < 0 ? `/A=-${digits.padStart(5, '0')}` : `/A=${digits.padStart(6, '0')}`;
};

const three = (n: number) => String(Math.round(n)).padStart(3, '0');

/** Text of a plain position without its data type character (ch. 6, 7, 8, 12). */
export function encodeUncompressedPosition(report: PositionToSend): string {
  const { symbol, courseDeg, speedKnots, weather, ambiguity = 0 } = report;
  const behind = weather
    ? encodeWeather(weather)
    : courseDeg === undefined || speedKnots === undefined
      ? (report.extension ?? '')
      : // North is 360: 000 means that the course is not known.
        `${three(Math.round(courseDeg) % 360 || 360)}/${three(Math.min(999, speedKnots))}`;
  return (
    encodeAngle(report.latitude, 2, 'N', 'S', ambiguity) +
    symbol.table +
    encodeAngle(report.longitude, 3, 'E', 'W', ambiguity) +
    symbol.code +
    behind +
    altitudeText(report.altitudeFt) +
    (report.comment ?? '')
  );
}

/** Text of a compressed position without its data type character (ch. 9). */
export function encodeCompressedPosition(report: PositionToSend): string {
  const { symbol, courseDeg, speedKnots } = report;
  const table = /\d/.test(symbol.table) ? String.fromCharCode(symbol.table.charCodeAt(0) - 0x30 + 0x61) : symbol.table;
  const y = Math.min(91 ** 4 - 1, Math.round(380926 * (90 - report.latitude)));
  const x = Math.min(91 ** 4 - 1, Math.round(190463 * (180 + report.longitude)));
  // Type octet: current fix, other source, made by software (ch. 9, compression type).
  const motion =
    courseDeg === undefined || speedKnots === undefined
      ? ' sT'
      : String.fromCharCode(33 + (Math.round(courseDeg / 4) % 90)) +
        String.fromCharCode(33 + Math.min(90, Math.round(Math.log(speedKnots + 1) / Math.log(1.08)))) +
        '[';
  return (
    table +
    toBase91(y, 4) +
    toBase91(x, 4) +
    symbol.code +
    motion +
    altitudeText(report.altitudeFt) +
    (report.comment ?? '')
  );
}
