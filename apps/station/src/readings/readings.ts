import {
  ANALOG_CHANNELS,
  NO_MEANING,
  readTelemetry,
  WEATHER_QUANTITIES,
  weatherQuantity,
  type Reading,
  type TelemetryMeaning,
  type Weather,
} from '@tombolo/core';
import type { ReadingsView, Series } from '@tombolo/contract';
import { rowsOf, type Queries } from '../store/database';
import { firstIdAt, msOfId, timeOfId } from '../store/moments';

interface WeatherRow {
  call: string;
  packet_id: string;
  weather: Weather;
}
interface TelemetryRow {
  call: string;
  packet_id: string;
  analog: (number | null)[];
  bits: string | null;
}

const TELEMETRY_DECIMALS = 2;
/** More points than a chart is wide say nothing more. */
const MOST_POINTS = 400;

const meaningOf = async (queries: Queries, call: string): Promise<TelemetryMeaning | null> =>
  (
    await rowsOf<{ meaning: TelemetryMeaning }>(queries, 'select meaning from telemetry_meaning where call = $1', [
      call,
    ])
  )[0]?.meaning ?? null;

/** One quantity of a station since a time, as a watch compares it. */
export async function readingsOf(
  queries: Queries,
  call: string,
  quantity: string,
  since: Date,
): Promise<{ readings: Reading[]; unit: string; decimals: number; packetId: string | null }> {
  const [source, id = ''] = quantity.split(':');
  if (source === 'weather') {
    const known = weatherQuantity(id);
    if (!known) return { readings: [], unit: '', decimals: 0, packetId: null };
    const rows = await rowsOf<WeatherRow>(
      queries,
      'select packet_id, weather from weather_reading where call = $1 and packet_id >= $2 order by packet_id',
      [call, firstIdAt(since)],
    );
    const readings = rows.flatMap(({ packet_id, weather }) => {
      const value = weather[known.id];
      return value === null ? [] : [{ atMs: msOfId(packet_id), value: known.convert(value) }];
    });
    return { readings, unit: known.unit, decimals: known.decimals, packetId: rows.at(-1)?.packet_id ?? null };
  }
  const meaning = (await meaningOf(queries, call)) ?? NO_MEANING;
  const channel = Number(id);
  const rows = await rowsOf<TelemetryRow>(
    queries,
    'select packet_id, analog, bits from telemetry_reading where call = $1 and packet_id >= $2 order by packet_id',
    [call, firstIdAt(since)],
  );
  const readings = rows.flatMap((row) => {
    const found = readTelemetry(row, meaning).analog.find((reading) => reading.channel === channel);
    return found ? [{ atMs: msOfId(row.packet_id), value: found.value }] : [];
  });
  const packetId = rows.at(-1)?.packet_id ?? null;
  return { readings, unit: meaning.units[channel - 1] ?? '', decimals: TELEMETRY_DECIMALS, packetId };
}

/** `Gusts`, or what the station calls its channel. */
export async function nameOfQuantity(queries: Queries, call: string, quantity: string): Promise<string> {
  const [source, id = ''] = quantity.split(':');
  if (source === 'weather') return weatherQuantity(id)?.name ?? id;
  return (await meaningOf(queries, call))?.names[Number(id) - 1] || `Analog ${id}`;
}

/** All that stations measured since a time, by station; the last measured first. */
export async function listReadings(
  queries: Queries,
  kind: ReadingsView['kind'],
  since: Date,
  call: string | null = null,
): Promise<ReadingsView[]> {
  const condition = call === null ? '' : ' and call = $2';
  const parameters = call === null ? [firstIdAt(since)] : [firstIdAt(since), call];
  if (kind === 'weather') {
    const rows = await rowsOf<WeatherRow>(
      queries,
      `select call, packet_id, weather from weather_reading where packet_id >= $1${condition} order by packet_id`,
      parameters,
    );
    return inOrder(byCall(rows)).map(([station, readings]) => ({
      call: station,
      kind,
      series: weatherSeries(readings),
      digital: [],
      defined: true,
      project: null,
    }));
  }
  const rows = await rowsOf<TelemetryRow>(
    queries,
    `select call, packet_id, analog, bits from telemetry_reading where packet_id >= $1${condition} order by packet_id`,
    parameters,
  );
  return Promise.all(
    inOrder(byCall(rows)).map(async ([station, readings]) => {
      const meaning = await meaningOf(queries, station);
      const last = readTelemetry(readings.at(-1)!, meaning ?? NO_MEANING);
      return {
        call: station,
        kind,
        series: telemetrySeries(readings, meaning ?? NO_MEANING),
        digital: last.digital.map(({ name, label, active }) => ({ name, label, active })),
        defined: meaning !== null,
        project: meaning?.project ?? null,
      };
    }),
  );
}

function byCall<T extends { call: string }>(rows: readonly T[]): Map<string, T[]> {
  const grouped = new Map<string, T[]>();
  for (const row of rows) {
    const group = grouped.get(row.call);
    if (group) group.push(row);
    else grouped.set(row.call, [row]);
  }
  return grouped;
}

const inOrder = <T extends { packet_id: string }>(grouped: Map<string, T[]>): [string, T[]][] =>
  [...grouped].sort(([, a], [, b]) => msOfId(b.at(-1)!.packet_id) - msOfId(a.at(-1)!.packet_id));

/** Every nth point, the last one always. */
function thinned<T>(points: readonly T[]): T[] {
  const step = Math.ceil(points.length / MOST_POINTS);
  return points.filter((_, i) => (points.length - 1 - i) % step === 0);
}

function weatherSeries(rows: readonly WeatherRow[]): Series[] {
  return WEATHER_QUANTITIES.flatMap((quantity) => {
    const points = rows.flatMap(({ packet_id, weather }) => {
      const value = weather[quantity.id];
      return value === null || value === undefined
        ? []
        : [{ at: timeOfId(packet_id).toISOString(), value: quantity.convert(value) }];
    });
    if (points.length === 0) return [];
    const { id, name, unit, decimals, pace } = quantity;
    return [
      { quantity: `weather:${id}`, name, unit, decimals, pace: [...pace] as [number, number], points: thinned(points) },
    ];
  });
}

function telemetrySeries(rows: readonly TelemetryRow[], meaning: TelemetryMeaning): Series[] {
  const points = Array.from({ length: ANALOG_CHANNELS }, (): Series['points'] => []);
  const names: string[] = [];
  for (const row of rows)
    for (const reading of readTelemetry(row, meaning).analog) {
      points[reading.channel - 1]!.push({ at: timeOfId(row.packet_id).toISOString(), value: reading.value });
      names[reading.channel - 1] = reading.name;
    }
  return points.flatMap((channel, i) =>
    channel.length === 0
      ? []
      : [
          {
            quantity: `telemetry:${i + 1}`,
            name: names[i]!,
            unit: meaning.units[i] ?? '',
            decimals: TELEMETRY_DECIMALS,
            pace: null,
            points: thinned(channel),
          },
        ],
  );
}
