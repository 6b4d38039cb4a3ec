import type { Symbol } from '@tombolo/core';

/** What net control puts on everybody's map, relative to the first start (minutes). */
export interface ScriptedObject {
  readonly fromMin: number;
  /** When it is taken off; null while the demo runs. */
  readonly untilMin: number | null;
  readonly form: 'object' | 'item';
  readonly name: string;
  readonly latitude: number;
  readonly longitude: number;
  readonly symbol: Symbol;
  readonly comment: string;
}

export const OBJECT_EVERY_MIN = 30;

export const scriptedObjects: readonly ScriptedObject[] = [
  {
    fromMin: -355,
    untilMin: null,
    form: 'object',
    name: 'SHELTER',
    latitude: 41.2692,
    longitude: -43.2848,
    symbol: { table: '\\', code: 'z' },
    comment: '146.520MHz Toff School, 62 people',
  },
  {
    fromMin: -350,
    untilMin: null,
    form: 'item',
    name: 'BAR SHUT',
    latitude: 41.185,
    longitude: -43.371,
    symbol: { table: '\\', code: 'w' },
    comment: 'Causeway under water',
  },
  {
    fromMin: -300,
    untilMin: -60,
    form: 'object',
    name: 'FERRY',
    latitude: 41.2035,
    longitude: -43.416,
    symbol: { table: '/', code: 's' },
    comment: 'At the quay, does not run',
  },
];

/** What the pump house measures, as it defines it over the air: metres, volts, litres a second, degrees. */
export const PUMP_TELEMETRY = {
  names: ['Level', 'Battery', 'Flow', 'Room', '', 'Pump', 'Door', 'Mains'],
  units: ['m', 'V', 'l/s', 'degC', '', 'on', 'open', 'lost'],
  coefficients: [
    [0, 0.01, 0],
    [0, 0.1, 0],
    [0, 0.5, 0],
    [0, 0.5, -10],
    [0, 1, 0],
  ],
  senses: '11111111',
  project: 'Pump house Oxbar',
} as const;
