import { fail, ok, type Parsed } from '../result';
import type { Note } from './note';
import { NO_WEATHER, type Weather } from './weather';

const MPH_PER_TENTH_KPH = 0.0621371192;

/** A field of four hexadecimal digits: what it is, and its value in the units of a weather report. */
interface RawField {
  readonly quantity: keyof Weather;
  readonly name: string;
  readonly value: (raw: number) => number;
  readonly unit: string;
}

const wind: RawField = { quantity: 'windMph', name: 'Wind', value: (v) => v * MPH_PER_TENTH_KPH, unit: 'mph' };
const gust: RawField = { ...wind, quantity: 'gustMph', name: 'Gust' };
const direction: RawField = {
  quantity: 'windDirectionDeg',
  name: 'Wind from',
  value: (v) => ((v & 0xff) * 360) / 256,
  unit: '°',
};
/** Sixteen bits with a sign: it freezes. */
const temperature: RawField = {
  quantity: 'temperatureF',
  name: 'Temperature',
  value: (v) => (v >= 0x8000 ? v - 0x10000 : v) / 10,
  unit: '°F',
};
const counter: RawField = {
  quantity: 'rainCounter',
  name: 'Rain counter',
  value: (v) => v,
  unit: 'hundredths of an inch',
};
const pressure: RawField = { quantity: 'pressureHpa', name: 'Pressure', value: (v) => v / 10, unit: 'hPa' };
const humidity: RawField = { quantity: 'humidityPercent', name: 'Humidity', value: (v) => v / 10, unit: '%' };
const today: RawField = {
  quantity: 'rainMidnightIn100',
  name: 'Rain since midnight',
  value: (v) => v,
  unit: 'hundredths of an inch',
};

/** Fields in their order; null is one that a report has no place for (Protocol Reference 1.0.1, ch. 12; from memory). */
const LAYOUTS: readonly { readonly head: string; readonly fields: readonly (RawField | null)[] }[] = [
  {
    head: '$ULTW',
    fields: [gust, direction, temperature, counter, pressure, null, null, null, humidity, null, null, today, wind],
  },
  {
    head: '!!',
    fields: [wind, direction, temperature, counter, pressure, null, humidity, null, null, null, today, null],
  },
];

/** True for the beginning of what a weather station writes by itself. */
export const isRawWeather = (text: string): boolean =>
  text.startsWith('$ULTW') || text.startsWith('!!') || /^[#*][0-9A-F]{8}/.test(text);

/** Reads the raw output of a weather station: four hexadecimal digits a field, four dashes for what it does not measure. */
export function decodeRawWeather(text: string, note?: Note): Parsed<{ weather: Weather; comment: string }> {
  const layout = LAYOUTS.find(({ head }) => text.startsWith(head));
  // Of the other two forms the order of fields is not known for certain: they are kept as they are, and nothing is made up.
  if (!layout) {
    note?.('Raw weather', 'kept as it is: its figures are not taken apart', 0, text.length);
    return ok({ weather: NO_WEATHER, comment: text });
  }
  const weather: { -readonly [K in keyof Weather]: Weather[K] } = { ...NO_WEATHER };
  let at = layout.head.length;
  note?.('Type', 'weather, as the station writes it', 0, at);
  let read = 0;
  for (const field of layout.fields) {
    const cell = text.slice(at, at + 4);
    if (!/^(?:[0-9A-Fa-f]{4}|-{4})$/.test(cell)) break;
    if (field && cell !== '----') {
      const value = field.value(parseInt(cell, 16));
      weather[field.quantity] = value;
      note?.(field.name, `${Number(value.toFixed(1))} ${field.unit}`, at, at + 4);
    }
    at += 4;
    read++;
  }
  if (read === 0) return fail(at, 'no field of four hexadecimal digits');
  return ok({ weather, comment: text.slice(at).trim() });
}
