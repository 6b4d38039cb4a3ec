import { celsius, metresPerSecond, type Weather } from '../aprs/weather';

/** What a weather station can be watched for, in the units that are shown. */
export interface WeatherQuantity {
  readonly id: keyof Weather;
  readonly name: string;
  readonly unit: string;
  readonly decimals: number;
  /** From the unit of the format. */
  readonly convert: (value: number) => number;
  /** Per hour: below the first it is steady, from the second on it changes fast. */
  readonly pace: readonly [slow: number, fast: number];
}

const millimetres = (hundredthsOfInch: number) => hundredthsOfInch * 0.254;
const same = (value: number) => value;

/** Shown in this order. Paces are common practice (pressure: 1 hPa an hour is a change, 2 a fast one). */
export const WEATHER_QUANTITIES: readonly WeatherQuantity[] = [
  { id: 'windMph', name: 'Wind', unit: 'm/s', decimals: 1, convert: metresPerSecond, pace: [0.5, 2] },
  { id: 'gustMph', name: 'Gusts', unit: 'm/s', decimals: 1, convert: metresPerSecond, pace: [0.5, 2] },
  { id: 'windDirectionDeg', name: 'Wind from', unit: '°', decimals: 0, convert: same, pace: [10, 30] },
  { id: 'pressureHpa', name: 'Pressure', unit: 'hPa', decimals: 1, convert: same, pace: [0.3, 1] },
  { id: 'temperatureF', name: 'Temperature', unit: '°C', decimals: 1, convert: celsius, pace: [0.3, 2] },
  { id: 'humidityPercent', name: 'Humidity', unit: '%', decimals: 0, convert: same, pace: [2, 10] },
  { id: 'rainHourIn100', name: 'Rain in the last hour', unit: 'mm', decimals: 1, convert: millimetres, pace: [0.2, 2] },
  { id: 'rainDayIn100', name: 'Rain in 24 hours', unit: 'mm', decimals: 1, convert: millimetres, pace: [0.2, 2] },
  {
    id: 'rainMidnightIn100',
    name: 'Rain since midnight',
    unit: 'mm',
    decimals: 1,
    convert: millimetres,
    pace: [0.2, 2],
  },
  { id: 'luminosityWm2', name: 'Sunlight', unit: 'W/m²', decimals: 0, convert: same, pace: [20, 200] },
  {
    id: 'snowIn',
    name: 'Snow in 24 hours',
    unit: 'cm',
    decimals: 0,
    convert: (inches) => inches * 2.54,
    pace: [0.2, 2],
  },
];

export const weatherQuantity = (id: string): WeatherQuantity | undefined =>
  WEATHER_QUANTITIES.find((quantity) => quantity.id === id);
