import type { Note } from './note';

/**
 * A weather report (Protocol Reference 1.0.1, ch. 12), in the units of the format. A field that the
 * station does not measure is null.
 */
export interface Weather {
  readonly windDirectionDeg: number | null;
  readonly windMph: number | null;
  readonly gustMph: number | null;
  readonly temperatureF: number | null;
  /** Rain, hundredths of an inch: last hour, last 24 hours, since local midnight. */
  readonly rainHourIn100: number | null;
  readonly rainDayIn100: number | null;
  readonly rainMidnightIn100: number | null;
  readonly humidityPercent: number | null;
  readonly pressureHpa: number | null;
  readonly luminosityWm2: number | null;
  readonly snowIn: number | null;
  /** The gauge's own counter, which starts anywhere. */
  readonly rainCounter: number | null;
}

export const NO_WEATHER: Weather = {
  windDirectionDeg: null,
  windMph: null,
  gustMph: null,
  temperatureF: null,
  rainHourIn100: null,
  rainDayIn100: null,
  rainMidnightIn100: null,
  humidityPercent: null,
  pressureHpa: null,
  luminosityWm2: null,
  snowIn: null,
  rainCounter: null,
};

type Quantity = keyof Weather;

interface Field {
  readonly quantity: Quantity;
  readonly name: string;
  readonly digits: number;
  readonly value: (digits: string) => number;
  readonly words: (value: number) => string;
}

const plain = Number;
const hundredths = (value: number) => `${(value / 100).toFixed(2)} in (${(value * 0.254).toFixed(1)} mm)`;

const FIELDS: Readonly<Record<string, Field>> = {
  g: { quantity: 'gustMph', name: 'Gust', digits: 3, value: plain, words: (v) => speedWords(v) },
  t: {
    quantity: 'temperatureF',
    name: 'Temperature',
    digits: 3,
    value: plain,
    words: (v) => `${v} °F (${celsius(v).toFixed(1)} °C)`,
  },
  r: { quantity: 'rainHourIn100', name: 'Rain in the last hour', digits: 3, value: plain, words: hundredths },
  p: { quantity: 'rainDayIn100', name: 'Rain in the last 24 hours', digits: 3, value: plain, words: hundredths },
  P: { quantity: 'rainMidnightIn100', name: 'Rain since midnight', digits: 3, value: plain, words: hundredths },
  h: {
    quantity: 'humidityPercent',
    name: 'Humidity',
    digits: 2,
    // Two digits cannot say 100: 00 does (ch. 12).
    value: (digits) => Number(digits) || 100,
    words: (v) => `${v} %`,
  },
  b: {
    quantity: 'pressureHpa',
    name: 'Pressure',
    digits: 5,
    value: (digits) => Number(digits) / 10,
    words: (v) => `${v.toFixed(1)} hPa`,
  },
  L: { quantity: 'luminosityWm2', name: 'Sunlight', digits: 3, value: plain, words: (v) => `${v} W/m²` },
  l: {
    quantity: 'luminosityWm2',
    name: 'Sunlight',
    digits: 3,
    value: (digits) => Number(digits) + 1000,
    words: (v) => `${v} W/m²`,
  },
  s: {
    quantity: 'snowIn',
    name: 'Snow in the last 24 hours',
    digits: 3,
    value: plain,
    words: (v) => `${v} in (${(v * 2.54).toFixed(0)} cm)`,
  },
  '#': {
    quantity: 'rainCounter',
    name: 'Rain counter',
    digits: 3,
    value: plain,
    words: (v) => `${v}, from its own zero`,
  },
};

/** Fields of the wind in reports without position, where `s` is the wind and not snow. */
const WIND_DIRECTION: Field = {
  quantity: 'windDirectionDeg',
  name: 'Wind from',
  digits: 3,
  value: plain,
  words: (v) => `${v}°`,
};
const WIND_SPEED: Field = { quantity: 'windMph', name: 'Wind', digits: 3, value: plain, words: (v) => speedWords(v) };

export const celsius = (fahrenheit: number): number => ((fahrenheit - 32) * 5) / 9;
export const metresPerSecond = (mph: number): number => mph * 0.44704;
const speedWords = (mph: number) => `${mph} mph (${metresPerSecond(mph).toFixed(1)} m/s)`;

/** Digits with an optional sign, right-aligned with spaces by some stations. */
const NUMBER = /^ *-?\d+$|^-?\d*\.\d+$/;
/** What stations send for "not measured": dots or spaces. */
const MISSING = /^[. ]+$/;

/** Letters with their digits, dots or blanks, in front of a letter that is known. */
const UNKNOWN = /^(?:[A-Za-z](?:-?\d{2,5}|[. ]{2,5})){1,6}?(?=[gtrpPhbLls#][-. \d])/;

type Draft = { -readonly [K in Quantity]: number | null };

/**
 * Reads the fields from `at` on, in any order, as far as they go. Returns what was read and where the rest (software and unit, or
 * a comment) begins. `wind` tells where the wind stands: `DDD/SSS` in front, as `cDDDsSSS`, or nowhere.
 */
export function decodeWeather(
  text: string,
  at: number,
  wind: 'slashed' | 'lettered' | 'none',
  note?: Note,
): { weather: Weather; end: number } {
  const draft: Draft = { ...NO_WEATHER };
  let i = at;
  const take = (field: Field, from: number): boolean => {
    const digits = text.slice(from, from + field.digits);
    if (digits.length < field.digits) return false;
    if (MISSING.test(digits)) {
      note?.(field.name, 'not measured', from - 1, from + field.digits);
      return true;
    }
    if (!NUMBER.test(digits)) return false;
    const value = field.value(digits);
    draft[field.quantity] = value;
    note?.(field.name, field.words(value), from - 1, from + field.digits);
    return true;
  };
  if (wind === 'slashed') {
    const found = /^([\d. ]{3})\/([\d. ]{3})/.exec(text.slice(i, i + 7));
    if (found) {
      readWind(draft, found[1]!, found[2]!);
      note?.('Wind', windWords(draft), i, i + 7);
      i += 7;
    }
  } else if (wind === 'lettered') {
    if (text[i] === 'c' && take(WIND_DIRECTION, i + 1)) i += 4;
    if (text[i] === 's' && take(WIND_SPEED, i + 1)) i += 4;
  }
  for (;;) {
    const field = FIELDS[text[i] ?? ''];
    if (field && take(field, i + 1)) {
      i += 1 + field.digits;
      continue;
    }
    // A quantity of a newer station, with one that is known behind it: passed over.
    const unknown = UNKNOWN.exec(text.slice(i, i + 40));
    if (!unknown) break;
    note?.('Not known', unknown[0], i, i + unknown[0].length);
    i += unknown[0].length;
  }
  return { weather: draft, end: i };
}

function readWind(draft: Draft, direction: string, speed: string): void {
  if (NUMBER.test(direction)) draft.windDirectionDeg = Number(direction);
  if (NUMBER.test(speed)) draft.windMph = Number(speed);
}

function windWords({ windDirectionDeg, windMph }: Draft): string {
  const from = windDirectionDeg === null ? 'direction not measured' : `from ${windDirectionDeg}°`;
  return `${from}, ${windMph === null ? 'speed not measured' : speedWords(windMph)}`;
}

/** True when at least one field was measured. */
export const measuresAnything = (weather: Weather): boolean => {
  for (const key in weather) if (weather[key as Quantity] !== null) return true;
  return false;
};

const padded = (value: number | null, digits: number, dots = '.'): string => {
  if (value === null) return dots.repeat(digits);
  const rounded = Math.round(value);
  const text = String(Math.abs(rounded)).padStart(rounded < 0 ? digits - 1 : digits, '0');
  const whole = rounded < 0 ? `-${text}` : text;
  // What the field cannot hold is not told, rather than told wrong or pushed into the next field.
  return whole.length > digits ? dots.repeat(digits) : whole;
};

/** The fields behind the wind, for sending; rain, snow and the like are left out where they are not measured. */
function fieldsOf(weather: Weather): string {
  const optional = (letter: string, value: number | null, digits: number) =>
    value === null ? '' : letter + padded(value, digits);
  const { luminosityWm2: light, humidityPercent: humidity } = weather;
  return (
    `g${padded(weather.gustMph, 3)}t${padded(weather.temperatureF, 3)}` +
    optional('r', weather.rainHourIn100, 3) +
    optional('p', weather.rainDayIn100, 3) +
    optional('P', weather.rainMidnightIn100, 3) +
    // 00 is 100 %: what rounds to nothing is sent as 1.
    (humidity === null ? '' : `h${padded(humidity >= 99.5 ? 0 : Math.max(1, humidity), 2)}`) +
    (weather.pressureHpa === null ? '' : `b${padded(weather.pressureHpa * 10, 5)}`) +
    (light === null ? '' : light < 999.5 ? `L${padded(light, 3)}` : `l${padded(light - 1000, 3)}`) +
    optional('s', weather.snowIn, 3) +
    optional('#', weather.rainCounter, 3)
  );
}

/** Weather as it stands behind the symbol `_` of a position: `DDD/SSSgGGGtTTT…`. */
export const encodeWeather = (weather: Weather): string =>
  `${padded(weather.windDirectionDeg, 3)}/${padded(weather.windMph, 3)}${fieldsOf(weather)}`;

/** Weather of a report without position, behind its time: `cDDDsSSSgGGGtTTT…`. */
export const encodeLetteredWeather = (weather: Weather): string =>
  `c${padded(weather.windDirectionDeg, 3)}s${padded(weather.windMph, 3)}${fieldsOf(weather)}`;

/** The report in a line: `wind from 45° 14.3 m/s, gusts 18.3 m/s, 11 °C, 996.1 hPa`. */
export function weatherInWords(weather: Weather): string {
  const parts: string[] = [];
  const { windDirectionDeg, windMph, gustMph, temperatureF, humidityPercent, pressureHpa, rainHourIn100 } = weather;
  if (windMph !== null)
    parts.push(
      `wind ${windDirectionDeg === null ? '' : `from ${windDirectionDeg}° `}${metresPerSecond(windMph).toFixed(1)} m/s`,
    );
  if (gustMph !== null) parts.push(`gusts ${metresPerSecond(gustMph).toFixed(1)} m/s`);
  if (temperatureF !== null) parts.push(`${celsius(temperatureF).toFixed(0)} °C`);
  if (humidityPercent !== null) parts.push(`${humidityPercent} % humidity`);
  if (pressureHpa !== null) parts.push(`${pressureHpa.toFixed(1)} hPa`);
  if (rainHourIn100 !== null && rainHourIn100 > 0) parts.push(`rain ${(rainHourIn100 * 0.254).toFixed(1)} mm/h`);
  return parts.length > 0 ? parts.join(', ') : 'no measurement';
}
