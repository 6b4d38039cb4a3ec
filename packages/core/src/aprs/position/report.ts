import type { ParseError } from '../../result';
import { isSignpostSymbol, signpostIn, type Area } from '../area';
import { decodeComment, type CommentTelemetry } from '../comment';
import type { BearingReport, Extension, PowerHeightGain, SignalStrength, Storm } from '../extension';
import type { Frequency } from '../frequency';
import type { Note } from '../note';
import type { Symbol } from '../symbol';
import type { Weather } from '../weather';
import { isDigit } from './octets';

/** A position report, WGS-84 degrees, north and east positive, with all that stood behind the position. */
export interface PositionReport {
  readonly latitude: number;
  readonly longitude: number;
  /** Digits left blank by the sender, 0–4; the position is the middle of what remains possible. */
  readonly ambiguity: number;
  readonly compressed: boolean;
  readonly symbol: Symbol;
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
  readonly altitudeFt: number | null;
  readonly rangeMi: number | null;
  readonly powerHeightGain: PowerHeightGain | null;
  readonly signalStrength: SignalStrength | null;
  readonly bearing: BearingReport | null;
  readonly storm: Storm | null;
  readonly area: Area | null;
  /** What stands on a signpost. */
  readonly signpost: string | null;
  readonly weather: Weather | null;
  readonly telemetry: CommentTelemetry | null;
  readonly frequency: Frequency | null;
  readonly comment: string;
  /** What could not be read, while the rest could. */
  readonly faults: readonly ParseError[];
}

export const NO_FAULTS: readonly ParseError[] = [];

export const isSymbolTable = (code: number): boolean =>
  code === 0x2f || code === 0x5c || isDigit(code) || (code >= 0x41 && code <= 0x5a);

/** 0° 0′: what receivers without a fix send (ch. 6, null position). Nobody is there. */
export const isNullPosition = ({ latitude, longitude }: { latitude: number; longitude: number }): boolean =>
  Math.abs(latitude) < 1e-4 && Math.abs(longitude) < 1e-4;

export const NULL_FAULT = (at: number): ParseError => ({
  at,
  reason: '0° 0′ is what a receiver without a fix sends: not taken as a position',
});

/** A position in degrees and minutes, for people: `41° 12.42′ N`. */
export function degreesInWords(value: number, positive: string, negative: string): string {
  // Rounded first, so that 59.996′ becomes the next degree.
  const hundredths = Math.round(Math.abs(value) * 6000);
  const whole = Math.floor(hundredths / 6000);
  return `${whole}° ${((hundredths - whole * 6000) / 100).toFixed(2)}′ ${value < 0 ? negative : positive}`;
}

/** What the position itself says. */
export type Place = Pick<PositionReport, 'latitude' | 'longitude' | 'ambiguity' | 'compressed' | 'symbol'>;

/** Puts together what was read and what the comment adds. */
export function report(
  place: Place,
  extension: Extension,
  weather: Weather | null,
  text: string,
  commentAt: number,
  faults: readonly ParseError[],
  note?: Note,
  altitudeFt: number | null = null,
  area: Area | null = null,
): PositionReport {
  const comment = decodeComment(text, commentAt, note);
  const { precision } = comment;
  // Extra precision goes away from 0° (1.2 addendum), also on the lines themselves, whose side the sign of zero keeps; it makes no sense of a blurred position.
  const finer = (value: number, minutes: number) =>
    value + (value < 0 || Object.is(value, -0) ? -minutes : minutes) / 60;
  const refine = precision !== null && place.ambiguity === 0 && !place.compressed;
  return {
    latitude: refine ? finer(place.latitude, precision.latitudeMinutes) : place.latitude,
    longitude: refine ? finer(place.longitude, precision.longitudeMinutes) : place.longitude,
    ambiguity: place.ambiguity,
    compressed: place.compressed,
    symbol: place.symbol,
    courseDeg: extension.courseDeg,
    speedKnots: extension.speedKnots,
    altitudeFt: comment.altitudeFt ?? altitudeFt,
    rangeMi: extension.rangeMi,
    powerHeightGain: extension.powerHeightGain,
    signalStrength: extension.signalStrength,
    bearing: extension.bearing,
    storm: extension.storm,
    area,
    signpost: isSignpostSymbol(place.symbol) ? signpostIn(comment.comment) : null,
    weather,
    telemetry: comment.telemetry,
    frequency: comment.frequency,
    comment: comment.comment,
    faults,
  };
}
