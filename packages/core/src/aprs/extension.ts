import type { Note } from './note';

/** A transmitter as its owner describes it (Protocol Reference 1.0.1, ch. 7, PHGD). */
export interface PowerHeightGain {
  readonly powerW: number;
  /** Above average terrain. */
  readonly heightFt: number;
  readonly gainDb: number;
  /** Null: all around. */
  readonly directionDeg: number | null;
}

/** Signal strength of a hunted transmitter as heard by an antenna all around (ch. 7, DFSshgd). */
export interface SignalStrength {
  /** S-points, 0 for not heard at all. */
  readonly sPoints: number;
  readonly heightFt: number;
  readonly gainDb: number;
  readonly directionDeg: number | null;
}

/** A bearing on a hunted transmitter (ch. 7, BRG/NRQ). */
export interface BearingReport {
  readonly bearingDeg: number;
  readonly rangeMi: number;
  /** Width of the beam that the bearing was taken with, at most; null when the bearing is of no use. */
  readonly accuracyDeg: number | null;
  /** Share of good readings, %; null when taken by hand or not told. */
  readonly goodPercent: number | null;
}

/** A tropical storm (ch. 12); speeds in knots, radii in nautical miles. */
export interface Storm {
  readonly kind: 'tropical storm' | 'hurricane' | 'tropical depression';
  readonly sustainedKnots: number;
  readonly gustKnots: number | null;
  readonly centralPressureHpa: number | null;
  readonly hurricaneRadiusNm: number | null;
  readonly stormRadiusNm: number | null;
  readonly galeRadiusNm: number | null;
}

export interface Extension {
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
  readonly rangeMi: number | null;
  readonly powerHeightGain: PowerHeightGain | null;
  readonly signalStrength: SignalStrength | null;
  readonly bearing: BearingReport | null;
  readonly storm: Storm | null;
  /** Where the comment begins. */
  readonly end: number;
}

/** One literal for all, so that every extension has the same shape. */
const extension = (
  end: number,
  courseDeg: number | null,
  speedKnots: number | null,
  rangeMi: number | null,
  powerHeightGain: PowerHeightGain | null,
  signalStrength: SignalStrength | null,
  bearing: BearingReport | null,
  storm: Storm | null,
): Extension => ({ courseDeg, speedKnots, rangeMi, powerHeightGain, signalStrength, bearing, storm, end });

const none = (end: number): Extension => extension(end, null, null, null, null, null, null, null);

/** Nothing behind the position. */
export const NO_EXTENSION: Extension = none(0);

/** Course, speed and range that stood in the position itself. */
export const withMotion = (
  courseDeg: number | null,
  speedKnots: number | null,
  rangeMi: number | null = null,
): Extension => extension(0, courseDeg, speedKnots, rangeMi, null, null, null, null);

const digit = (text: string, at: number): number => {
  const value = text.charCodeAt(at) - 48;
  return value >= 0 && value <= 9 ? value : -1;
};

/** Three digits, or -1. */
const three = (text: string, at: number): number => {
  const [a, b, c] = [digit(text, at), digit(text, at + 1), digit(text, at + 2)];
  return a < 0 || b < 0 || c < 0 ? -1 : a * 100 + b * 10 + c;
};

/** Height codes go on behind 9 with the next characters: `:` is 10 240 ft. */
const heightOf = (text: string, at: number): number => {
  const code = text.charCodeAt(at) - 48;
  return code >= 0 && code <= 20 ? 10 * 2 ** code : -1;
};

const directionOf = (code: number): number | null => (code === 0 ? null : code * 45);
const directionWords = (deg: number | null) => (deg === null ? 'all around' : `best toward ${deg}°`);

/**
 * Reads the data extension behind a plain position (ch. 7): course and speed, perhaps with a bearing or a storm, PHG, RNG or DFS.
 * What is none of these is left to the comment.
 */
export function decodeExtension(text: string, at: number, note?: Note): Extension {
  if (text.length < at + 7) return none(at);
  if (text[at + 3] === '/') return motion(text, at, note);
  switch (text.slice(at, at + 3)) {
    case 'PHG':
    case 'DFS':
      return described(text, at, note);
    case 'RNG': {
      const range = /^\d{4}/.exec(text.slice(at + 3, at + 7));
      if (!range) return none(at);
      note?.('Range', `${Number(range[0])} miles`, at, at + 7);
      return extension(at + 7, null, null, Number(range[0]), null, null, null, null);
    }
    default:
      return none(at);
  }
}

function motion(text: string, at: number, note?: Note): Extension {
  const course = three(text, at);
  const speed = three(text, at + 4);
  // `.../...` and blanks are sent by stations that do not know.
  if (course < 0 || speed < 0) {
    if (!/^[. ]{3}\/[. ]{3}$/.test(text.slice(at, at + 7))) return none(at);
    note?.('Course and speed', 'not known', at, at + 7);
    return none(at + 7);
  }
  if (course > 360) return none(at);
  // Course 000 means "not known"; north is 360.
  const courseDeg = course === 0 ? null : course;
  note?.(
    'Course and speed',
    `${courseDeg === null ? 'course not known' : `${courseDeg}°`} at ${speed} knots`,
    at,
    at + 7,
  );
  const end = at + 7;
  const storm = text[end] === '/' ? stormAt(text, end, note) : null;
  const bearing = text[end] === '/' && !storm ? bearingAt(text, end, note) : null;
  return extension(
    storm?.end ?? bearing?.end ?? end,
    courseDeg,
    speed,
    null,
    null,
    null,
    bearing?.bearing ?? null,
    storm?.storm ?? null,
  );
}

/** `/BRG/NRQ` behind course and speed. */
function bearingAt(text: string, at: number, note?: Note): Pick<Extension, 'bearing' | 'end'> | null {
  if (text[at + 4] !== '/') return null;
  const bearingDeg = three(text, at + 1);
  const [n, r, q] = [digit(text, at + 5), digit(text, at + 6), digit(text, at + 7)];
  if (bearingDeg < 0 || bearingDeg > 360 || n < 0 || r < 0 || q < 0) return null;
  // Quality 1–9: less than 240°, 120°, 64°, then half of it each step.
  const accuracyDeg = n === 0 || q === 0 ? null : q === 1 ? 240 : q === 2 ? 120 : 64 / 2 ** (q - 3);
  const bearing: BearingReport = {
    bearingDeg,
    rangeMi: 2 ** r,
    accuracyDeg,
    goodPercent: n >= 1 && n <= 8 ? n * 12.5 : null,
  };
  note?.(
    'Bearing taken',
    accuracyDeg === null
      ? 'of no use, as its sender says'
      : `${bearingDeg}°, within ${accuracyDeg}°, to about ${bearing.rangeMi} miles`,
    at,
    at + 8,
  );
  return { bearing, end: at + 8 };
}

const STORMS: Readonly<Record<string, Storm['kind']>> = {
  TS: 'tropical storm',
  HC: 'hurricane',
  TD: 'tropical depression',
};
const STORM = /^\/(TS|HC|TD)\/(\d{3})(?:\^(\d{3}))?(?:\/(\d{4}))?(?:>(\d{3}))?(?:&(\d{3}))?(?:%(\d{3}))?/;

/** `/HC/150^200/0980>090&030%040` behind course and speed. */
function stormAt(text: string, at: number, note?: Note): Pick<Extension, 'storm' | 'end'> | null {
  const found = STORM.exec(text.slice(at, at + 40));
  if (!found) return null;
  const number = (digits: string | undefined) => (digits === undefined ? null : Number(digits));
  const storm: Storm = {
    kind: STORMS[found[1]!]!,
    sustainedKnots: Number(found[2]),
    gustKnots: number(found[3]),
    centralPressureHpa: number(found[4]),
    hurricaneRadiusNm: number(found[5]),
    stormRadiusNm: number(found[6]),
    galeRadiusNm: number(found[7]),
  };
  const end = at + found[0].length;
  const parts = [`${storm.kind}, sustained ${storm.sustainedKnots} knots`];
  if (storm.gustKnots !== null) parts.push(`gusts ${storm.gustKnots} knots`);
  if (storm.centralPressureHpa !== null) parts.push(`central pressure ${storm.centralPressureHpa} hPa`);
  note?.('Storm', parts.join(', '), at, end);
  return { storm, end };
}

/** `PHGphgd` and `DFSshgd`; PHG may go on with beacons an hour and a slash. */
function described(text: string, at: number, note?: Note): Extension {
  const first = digit(text, at + 3);
  const heightFt = heightOf(text, at + 4);
  const gainDb = digit(text, at + 5);
  const direction = digit(text, at + 6);
  if (first < 0 || heightFt < 0 || gainDb < 0 || direction < 0 || direction > 8) return none(at);
  const directionDeg = directionOf(direction);
  const end = at + 7;
  if (text[at] === 'D') {
    note?.(
      'Signal strength',
      `${first === 0 ? 'not heard' : `S${first}`} at ${heightFt} ft, ${gainDb} dB, ${directionWords(directionDeg)}`,
      at,
      end,
    );
    const strength = { sPoints: first, heightFt, gainDb, directionDeg };
    return extension(end, null, null, null, null, strength, null, null);
  }
  const powerW = first * first;
  note?.(
    'Station',
    `${powerW} W, antenna ${heightFt} ft above the land around, ${gainDb} dB, ${directionWords(directionDeg)}`,
    at,
    end,
  );
  const rate = /^[1-9A-Z]\//.exec(text.slice(end, end + 2));
  if (rate) note?.('Beacons an hour', String(parseInt(rate[0][0]!, 36)), end, end + 2);
  const described = { powerW, heightFt, gainDb, directionDeg };
  return extension(rate ? end + 2 : end, null, null, null, described, null, null, null);
}

/** `PHGphgd` for sending: the nearest steps that the format has. */
export function encodePowerHeightGain({ powerW, heightFt, gainDb, directionDeg }: PowerHeightGain): string {
  const power = Math.min(9, Math.round(Math.sqrt(powerW)));
  const height = Math.min(9, Math.max(0, Math.round(Math.log2(heightFt / 10))));
  const gain = Math.min(9, Math.max(0, Math.round(gainDb)));
  const direction = directionDeg === null ? 0 : Math.round(directionDeg / 45) % 8 || 8;
  return `PHG${power}${height}${gain}${direction}`;
}
