import {
  encodeFrame,
  formatCsv,
  formatCsvRows,
  formatGeoJson,
  formatGpx,
  formatKml,
  frameOfPacket,
  octetsOfText,
  parseMonitorLine,
  pcapHeader,
  pcapRecord,
  symbolMeaning,
  type Parsed,
  type PlacedThing,
} from '@tombolo/core';
import type { HeardFilter, ItemSummary, ReadingsView, StationView, TrailPoint } from '@tombolo/contract';
import { eachReception } from '../heard/each-reception';
import { told } from '../heard/statements';
import type { Queries } from '../store/database';
import { msOfId, timeOfId } from '../store/moments';

/**
 * What was heard as a capture file: every copy with its own time and path. Copies from text feeds whose path cannot be carried by
 * AX.25 (q-constructs, lower case) are left out; `skipped` counts them.
 */
export async function* exportPcap(
  queries: Queries,
  filter: HeardFilter,
  skipped: () => void,
): AsyncGenerator<Uint8Array> {
  yield pcapHeader();
  for await (const { id, raw, form, port } of eachReception(queries, filter)) {
    // A frame of a mesh is none of AX.25.
    if (form === 'mesh') continue;
    const frame: Parsed<Uint8Array> = form === 'ax25' ? { ok: true, value: raw } : frameOfLine(raw);
    if (frame.ok) yield pcapRecord(frame.value, msOfId(id), undefined, port ?? 0);
    else skipped();
  }
}

function frameOfLine(raw: Uint8Array): Parsed<Uint8Array> {
  const packet = parseMonitorLine(raw, { escapes: false });
  if (!packet.ok) return packet;
  const frame = frameOfPacket(packet.value);
  return frame.ok ? encodeFrame(frame.value) : frame;
}

/** What was heard as monitor text: time and line of every copy. */
export async function* exportMonitor(queries: Queries, filter: HeardFilter): AsyncGenerator<Uint8Array> {
  for await (const reception of eachReception(queries, filter))
    // A line says what a packet says; frames of connections are in the capture file.
    if (reception.form !== 'mesh' && reception.kind !== 'connection')
      yield octetsOfText(`${timeOfId(reception.id).toISOString()} ${told(reception).line}\n`);
}

const LOG_COLUMNS = [
  'Time (UTC)',
  'From',
  'To',
  'Direction',
  'Precedence',
  'Number',
  'Text',
  'Status',
  'Status since (UTC)',
  'Proof',
  'Proven by',
];

/** The communications log in pieces, so that a long one stalls nobody: one row an item, with the proof of its rung. */
export async function* communicationsLog(pages: AsyncIterable<readonly ItemSummary[]>): AsyncGenerator<string> {
  yield formatCsv(LOG_COLUMNS, []);
  for await (const items of pages)
    yield formatCsvRows(
      items.map((item) => [
        item.createdAt,
        item.sender,
        item.addressee,
        item.direction === 'out' ? 'sent' : 'received',
        item.precedence,
        item.number,
        item.body,
        item.status.words,
        item.status.proof?.at ?? null,
        item.status.proof?.raw ?? null,
        item.status.proof?.by ?? null,
      ]),
    );
}

/** Stations and objects with a place, as map files take them. */
export function placedThings(
  stations: readonly StationView[],
  trailOf: (call: string) => readonly TrailPoint[],
): PlacedThing[] {
  return stations.flatMap((station): PlacedThing[] => {
    const { latitude, longitude, positionAt, symbol } = station;
    if (latitude === null || longitude === null || positionAt === null || !station.live) return [];
    return [
      {
        name: station.name,
        comment: [station.comment, station.status].filter(Boolean).join(' – '),
        meaning: symbol ? symbolMeaning({ table: symbol[0]!, code: symbol[1] ?? ' ' }) : 'other',
        latitude,
        longitude,
        altitudeM: station.altitudeM,
        at: positionAt,
        trail: trailOf(station.call).filter(({ fault }) => fault === null),
      },
    ];
  });
}

export const PLACE_FORMATS = {
  gpx: {
    type: 'application/gpx+xml',
    format: (things: readonly PlacedThing[], at: Date) => formatGpx(things, at.toISOString()),
  },
  kml: { type: 'application/vnd.google-earth.kml+xml', format: formatKml },
  geojson: { type: 'application/geo+json', format: formatGeoJson },
} as const;

/** Readings as a table: one row a value, so that stations with unlike sensors stand in one file. */
export const readingsCsv = (readings: readonly ReadingsView[]): string =>
  formatCsv(
    ['Time (UTC)', 'Station', 'Quantity', 'Value', 'Unit'],
    readings.flatMap(({ call, series }) =>
      series.flatMap(({ name, unit, decimals, points }) =>
        points.map(({ at, value }) => [at, call, name, Number(value.toFixed(decimals)), unit]),
      ),
    ),
  );
