import { utf8OfLatin1 } from '../octets';
import { fail, ok, type Parsed } from '../result';
import type { Note } from './note';

/** A telemetry report (Protocol Reference 1.0.1, ch. 13); what is missing in it is null. */
export interface Telemetry {
  /** As sent: three digits, or `MIC`. */
  readonly sequence: string;
  /** Up to five analog values as sent, before EQNS. */
  readonly analog: readonly (number | null)[];
  /** Eight digits of 0 and 1, the first channel first; null when not sent. */
  readonly bits: string | null;
  readonly comment: string;
}

export const ANALOG_CHANNELS = 5;
export const DIGITAL_CHANNELS = 8;

/** `T#sss,a1,a2,a3,a4,a5,bbbbbbbb` and a comment. Values are 0–255 in the Reference; later stations send any decimals. */
export function decodeTelemetry(text: string, note?: Note): Parsed<Telemetry> {
  if (text[1] !== '#') return fail(1, 'no # behind T');
  let at = 2;
  const mic = /^MIC,?/.exec(text.slice(at, at + 4));
  const number = mic ?? /^([^,]{1,5}),/.exec(text.slice(at, at + 6));
  if (!number) return fail(at, 'the telemetry has no number');
  const sequence = mic ? 'MIC' : number[1]!;
  note?.('Number', sequence, at, at + number[0].length);
  at += number[0].length;
  const analog: (number | null)[] = [];
  while (analog.length < ANALOG_CHANNELS && at < text.length) {
    const cell = /^[^,\r\n]*/.exec(text.slice(at, at + 20))![0];
    if (cell !== '' && !/^-?(?:\d+(?:\.\d+)?|\.\d+)$/.test(cell.trim())) break;
    const value = cell.trim() === '' ? null : Number(cell);
    note?.(`Analog ${analog.length + 1}`, value === null ? 'not sent' : String(value), at, at + cell.length);
    analog.push(value);
    at += cell.length;
    if (text[at] !== ',') break;
    at++;
  }
  if (analog.length === 0) return fail(at, 'the telemetry has no values');
  let bits: string | null = null;
  const digital = /^[01]{8}/.exec(text.slice(at, at + 8));
  if (analog.length === ANALOG_CHANNELS && digital) {
    bits = digital[0];
    note?.('Digital', bits, at, at + DIGITAL_CHANNELS);
    at += DIGITAL_CHANNELS;
  }
  const comment = utf8OfLatin1(text.slice(at)).trim();
  if (comment !== '') note?.('Comment', comment, at, text.length);
  return ok({ sequence, analog, bits, comment });
}

/** What the channels of a station mean, in messages to the station itself (ch. 13). */
export type TelemetryDefinition =
  | { readonly what: 'names' | 'units'; readonly labels: readonly string[] }
  /** Coefficients a, b, c of value = a·v² + b·v + c, per channel. */
  | { readonly what: 'equations'; readonly coefficients: readonly (readonly [number, number, number])[] }
  /** Which state of each bit is the active one, and the name of the project. */
  | { readonly what: 'senses'; readonly senses: string; readonly project: string };

const HEAD = /^(PARM|UNIT|EQNS|BITS)\./;

/** Reads the text of a definition; null when it is no definition, a failure when it is a spoilt one. */
export function decodeTelemetryDefinition(text: string): Parsed<TelemetryDefinition> | null {
  const head = HEAD.exec(text);
  if (!head) return null;
  const body = text.slice(5).trimEnd();
  switch (head[1]) {
    case 'PARM':
    case 'UNIT': {
      const labels = body
        .split(',')
        .slice(0, ANALOG_CHANNELS + DIGITAL_CHANNELS)
        .map((label) => label.trim());
      return ok({ what: head[1] === 'PARM' ? 'names' : 'units', labels });
    }
    case 'EQNS': {
      const numbers = body === '' ? [] : body.split(',').map((cell) => (cell.trim() === '' ? 0 : Number(cell)));
      if (numbers.length > 3 * ANALOG_CHANNELS || numbers.some((n) => !Number.isFinite(n)))
        return fail(5, 'an equation is not three numbers for each of five channels');
      const coefficients = [];
      for (let i = 0; i + 2 < numbers.length + 2 && i < numbers.length; i += 3)
        coefficients.push([numbers[i]!, numbers[i + 1] ?? 0, numbers[i + 2] ?? 0] as const);
      return ok({ what: 'equations', coefficients });
    }
    default: {
      const found = /^([01]{1,8})(?:,(.*))?$/.exec(body);
      if (!found) return fail(5, 'the senses of the bits are not digits of 0 and 1');
      return ok({ what: 'senses', senses: found[1]!.padEnd(8, '1'), project: (found[2] ?? '').trim() });
    }
  }
}

/** All that a station defined, merged. */
export interface TelemetryMeaning {
  readonly names: readonly string[];
  readonly units: readonly string[];
  readonly coefficients: readonly (readonly [number, number, number])[];
  readonly senses: string | null;
  readonly project: string | null;
}

export const NO_MEANING: TelemetryMeaning = { names: [], units: [], coefficients: [], senses: null, project: null };

export function learnMeaning(meaning: TelemetryMeaning, definition: TelemetryDefinition): TelemetryMeaning {
  switch (definition.what) {
    case 'names':
      return { ...meaning, names: definition.labels };
    case 'units':
      return { ...meaning, units: definition.labels };
    case 'equations':
      return { ...meaning, coefficients: definition.coefficients };
    case 'senses':
      return { ...meaning, senses: definition.senses, project: definition.project || null };
  }
}

export interface AnalogReading {
  readonly channel: number;
  readonly name: string;
  /** Empty without a definition: the value is then as sent. */
  readonly unit: string;
  readonly value: number;
}

export interface DigitalReading {
  readonly channel: number;
  readonly name: string;
  /** What the active state is called, e.g. `open`. */
  readonly label: string;
  readonly active: boolean;
}

/** The values of a report in the units that the station defined; without definitions as sent, under plain names. */
export function readTelemetry(
  { analog, bits }: Pick<Telemetry, 'analog' | 'bits'>,
  meaning: TelemetryMeaning,
): { analog: AnalogReading[]; digital: DigitalReading[] } {
  const readings: AnalogReading[] = [];
  analog.forEach((raw, i) => {
    if (raw === null) return;
    const [a, b, c] = meaning.coefficients[i] ?? [0, 1, 0];
    readings.push({
      channel: i + 1,
      name: meaning.names[i] || `Analog ${i + 1}`,
      unit: meaning.units[i] ?? '',
      value: a * raw * raw + b * raw + c,
    });
  });
  const digital = [...(bits ?? '')].map((bit, i) => ({
    channel: i + 1,
    name: meaning.names[ANALOG_CHANNELS + i] || `Bit ${i + 1}`,
    label: meaning.units[ANALOG_CHANNELS + i] ?? '',
    active: bit === (meaning.senses?.[i] ?? '1'),
  }));
  return { analog: readings, digital };
}

/** Text of a report: three digits of number, values as whole numbers of three digits. */
export function encodeTelemetry(
  sequence: number,
  analog: readonly number[],
  bits: string,
  comment = '',
): Parsed<string> {
  if (analog.length !== ANALOG_CHANNELS) return fail(0, 'a report has five analog values');
  if (!/^[01]{8}$/.test(bits)) return fail(0, 'a report has eight bits');
  const three = (n: number) => String(Math.max(0, Math.min(999, Math.round(n)))).padStart(3, '0');
  return ok(`T#${three(sequence % 1000)},${analog.map(three).join(',')},${bits}${comment}`);
}

/** Text of a definition message, without its addressee. */
export function encodeTelemetryDefinition(definition: TelemetryDefinition): string {
  switch (definition.what) {
    case 'names':
      return `PARM.${definition.labels.join(',')}`;
    case 'units':
      return `UNIT.${definition.labels.join(',')}`;
    case 'equations':
      return `EQNS.${definition.coefficients.flat().join(',')}`;
    case 'senses':
      return `BITS.${definition.senses}${definition.project ? `,${definition.project}` : ''}`;
  }
}
