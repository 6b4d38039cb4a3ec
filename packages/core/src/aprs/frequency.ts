import type { Note } from './note';

/** How a station can be called by voice: what it says in a comment or an object (APRS 1.2 addendum, frequency format). */
export interface Frequency {
  readonly frequencyMHz: number;
  /** Sub-audible tone, Hz, as the standard value that the whole number stands for. */
  readonly toneHz: number | null;
  /** The tone is sent and also opens the receiver (`C`); otherwise it is only sent (`T`). */
  readonly toneSquelch: boolean;
  /** Digital code instead of a tone. */
  readonly dcs: string | null;
  /** `Toff`: explicitly no tone. */
  readonly toneOff: boolean;
  /** Added to the frequency for sending; null where the local custom applies. */
  readonly offsetMHz: number | null;
  readonly rangeKm: number | null;
  readonly narrow: boolean;
  /** A tone of 1750 Hz at the start opens the repeater. */
  readonly toneBurst: boolean;
  /** The station listens elsewhere than on the frequency that it names. */
  readonly receiveMHz: number | null;
}

/**
 * The standard sub-audible tones, Hz (EIA/TIA-603; the list is from memory). Packets carry them as whole hertz,
 * which tell them apart.
 */
export const CTCSS_TONES_HZ: readonly number[] = [
  67.0, 69.3, 71.9, 74.4, 77.0, 79.7, 82.5, 85.4, 88.5, 91.5, 94.8, 97.4, 100.0, 103.5, 107.2, 110.9, 114.8, 118.8,
  123.0, 127.3, 131.8, 136.5, 141.3, 146.2, 151.4, 156.7, 162.2, 167.9, 173.8, 179.9, 186.2, 192.8, 203.5, 210.7, 218.1,
  225.7, 233.6, 241.8, 250.3,
];

/** The standard tone of a whole number of hertz, cut or rounded; the number itself when there is none. */
export const standardTone = (wholeHz: number): number =>
  CTCSS_TONES_HZ.find((tone) => Math.trunc(tone) === wholeHz) ??
  CTCSS_TONES_HZ.find((tone) => Math.round(tone) === wholeHz) ??
  wholeHz;

const FREQUENCY = /(?:(?:^|[^\dA-Za-z.])([A-O]\d{2}\.\d{2,3})|(?:^|[^\d.])(\d{2,4}\.\d{2,4})) ?MHz/i;
/** A letter for what stands in front of the last two digits of a microwave frequency, MHz (1.2 addendum, from memory). */
const MICROWAVE: Readonly<Record<string, number>> = {
  A: 1200,
  B: 2300,
  C: 2400,
  D: 3400,
  E: 5600,
  F: 5700,
  G: 5800,
  H: 10_100,
  I: 10_200,
  J: 10_300,
  K: 10_400,
  L: 10_500,
  M: 24_000,
  N: 24_100,
  O: 24_200,
};
const toldMHz = (text: string): number => {
  const hundreds = MICROWAVE[text[0]!.toUpperCase()];
  return hundreds === undefined ? Number(text) : hundreds + Number(text.slice(1));
};
const KM_PER_MILE = 1.609344;

/**
 * Finds a frequency with tone, offset and range in a comment. `from`/`to` are offsets in the text. Null when there is none.
 */
export function findFrequency(
  text: string,
  shift = 0,
  note?: Note,
): { frequency: Frequency; from: number; to: number } | null {
  // Most comments have none: a cheap look first.
  if (!/mhz/i.test(text)) return null;
  const found = FREQUENCY.exec(text);
  if (!found) return null;
  const told = (found[1] ?? found[2])!;
  const from = found.index + found[0].indexOf(told);
  const frequencyMHz = toldMHz(told);
  if (frequencyMHz < 1 || frequencyMHz > (found[1] ? 25_000 : 6000)) return null;
  const to = found.index + found[0].length;
  note?.('Voice frequency', `${frequencyMHz.toFixed(3)} MHz`, shift + from, shift + to);
  return settingsBehind(text, from, to, frequencyMHz, shift, note);
}

/** `146.940` in front of the name of an object: the frequency of what it stands for (1.2 addendum, from memory). */
const NAMED = /^(\d{3}\.\d{2,3}|[A-O]\d{2}\.\d{2,3})(?![\d.])/;

/** The frequency that an object is named for, with what the beginning of its comment says of it. */
export function frequencyOfName(name: string, comment: string): Frequency | null {
  const found = NAMED.exec(name);
  if (!found) return null;
  const frequencyMHz = toldMHz(found[1]!);
  return frequencyMHz < 1 ? null : settingsBehind(` ${comment}`, 0, 0, frequencyMHz).frequency;
}

/** Tone, offset, range and another frequency to listen on, in this order, each behind a blank. */
function settingsBehind(
  text: string,
  from: number,
  begin: number,
  frequencyMHz: number,
  shift = 0,
  note?: Note,
): { frequency: Frequency; from: number; to: number } {
  let to = begin;
  let toneHz: number | null = null;
  let toneSquelch = false;
  let dcs: string | null = null;
  let toneOff = false;
  let offsetMHz: number | null = null;
  let rangeKm: number | null = null;
  let narrow = false;
  let toneBurst = false;
  let receiveMHz: number | null = null;
  const take = (pattern: RegExp): RegExpExecArray | null => {
    const next = pattern.exec(text.slice(to, to + 24));
    if (next) to += next[0].length;
    return next;
  };
  const span = (length: number): [number, number] => [shift + to - length, shift + to];
  const burst = take(/^ (?:[Tt]?(1750)|(l750))(?!\d)/);
  const tone = burst ? null : (take(/^ ([TtCcDd])(\d{3})(?!\d)/) ?? take(/^ ([Tt])(off|OFF)/));
  if (burst) {
    toneBurst = true;
    narrow = burst[2] !== undefined;
    note?.('Tone', 'a burst of 1750 Hz at the start', ...span(burst[0].length));
  }
  if (tone) {
    const letter = tone[1]!.toUpperCase();
    narrow = tone[1] !== letter;
    if (tone[2]!.toLowerCase() === 'off') {
      toneOff = true;
      note?.('Tone', 'none', ...span(tone[0].length));
    } else if (letter === 'D') {
      dcs = tone[2]!;
      note?.('Tone', `digital code ${dcs}`, ...span(tone[0].length));
    } else {
      toneHz = standardTone(Number(tone[2]));
      toneSquelch = letter === 'C';
      note?.(
        'Tone',
        `${toneHz.toFixed(1)} Hz, ${toneSquelch ? 'to send and to open the receiver' : 'to send'}`,
        ...span(tone[0].length),
      );
    }
  }
  const offset = take(/^ ([+-])(\d{3})(?!\d)/);
  if (offset) {
    // Units of 10 kHz.
    offsetMHz = (Number(offset[2]) / 100) * (offset[1] === '-' ? -1 : 1);
    note?.('Offset', `send ${signed(offsetMHz)} MHz from it`, ...span(offset[0].length));
  }
  const range = take(/^ R(\d{2})([mk])/);
  if (range) {
    rangeKm = Number(range[1]) * (range[2] === 'm' ? KM_PER_MILE : 1);
    note?.('Range', `about ${rangeKm.toFixed(0)} km`, ...span(range[0].length));
  }
  const receive = take(/^ (\d{3}\.\d{2,3})rx/i);
  if (receive) {
    receiveMHz = Number(receive[1]);
    note?.('Listens on', `${receiveMHz.toFixed(3)} MHz`, ...span(receive[0].length));
  }
  return {
    frequency: {
      frequencyMHz,
      toneHz,
      toneSquelch,
      dcs,
      toneOff,
      offsetMHz,
      rangeKm,
      narrow,
      toneBurst,
      receiveMHz,
    },
    from,
    to,
  };
}

const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(3)}`;

/** What to set on the radio, one line a step. */
export function radioSetting(frequency: Frequency): readonly { readonly what: string; readonly value: string }[] {
  const { frequencyMHz, toneHz, toneSquelch, dcs, toneOff, offsetMHz, narrow, toneBurst, receiveMHz } = frequency;
  const rows = [{ what: 'Listen on', value: `${frequencyMHz.toFixed(3)} MHz` }];
  // Where it listens is where one sends.
  if (receiveMHz !== null) rows.push({ what: 'Send on', value: `${receiveMHz.toFixed(3)} MHz, where it listens` });
  else if (offsetMHz !== null)
    rows.push({
      what: 'Send on',
      value:
        offsetMHz === 0
          ? 'the same frequency'
          : `${(frequencyMHz + offsetMHz).toFixed(3)} MHz (offset ${signed(offsetMHz)} MHz)`,
    });
  else rows.push({ what: 'Send on', value: 'offset not told: the same, or what your band plan says for a repeater' });
  if (toneBurst) rows.push({ what: 'Tone', value: 'a burst of 1750 Hz at the start' });
  else if (toneHz !== null)
    rows.push({ what: toneSquelch ? 'Tone, both ways' : 'Tone to send', value: `${toneHz.toFixed(1)} Hz` });
  else if (dcs !== null) rows.push({ what: 'Digital code', value: dcs });
  else if (toneOff) rows.push({ what: 'Tone', value: 'none' });
  if (narrow) rows.push({ what: 'Deviation', value: 'narrow' });
  return rows;
}

/** A frequency with nothing beside it. */
export const plainFrequency = (frequencyMHz: number): Frequency => ({
  frequencyMHz,
  toneHz: null,
  toneSquelch: false,
  dcs: null,
  toneOff: false,
  offsetMHz: null,
  rangeKm: null,
  narrow: false,
  toneBurst: false,
  receiveMHz: null,
});

/** The text for a comment or object: `146.940MHz T100 -060`. */
export function encodeFrequency(frequency: Frequency): string {
  const { frequencyMHz, toneHz, toneSquelch, dcs, toneOff, offsetMHz, rangeKm, narrow, toneBurst, receiveMHz } =
    frequency;
  const letter = (capital: string) => (narrow ? capital.toLowerCase() : capital);
  const three = (n: number) => String(Math.trunc(n)).padStart(3, '0');
  const tone = toneBurst
    ? ` ${narrow ? 'l' : '1'}750`
    : toneHz !== null
      ? ` ${letter(toneSquelch ? 'C' : 'T')}${three(toneHz)}`
      : dcs !== null
        ? ` ${letter('D')}${dcs}`
        : toneOff
          ? ` ${letter('T')}off`
          : '';
  const offset =
    offsetMHz === null ? '' : ` ${offsetMHz < 0 ? '-' : '+'}${three(Math.round(Math.abs(offsetMHz) * 100))}`;
  const range = rangeKm === null ? '' : ` R${String(Math.min(99, Math.round(rangeKm))).padStart(2, '0')}k`;
  return `${frequencyMHz.toFixed(3).padStart(7, '0')}MHz${tone}${offset}${range}${receiveMHz === null ? '' : ` ${receiveMHz.toFixed(3)}rx`}`;
}
