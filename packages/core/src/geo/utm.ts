import type { Position } from './geodesic';
import { gridOf, positionOfGrid } from './military-grid';

/** Columns of 100 km squares by zone, in threes; rows from the equator on, in even zones five further (STANAG 2211; from memory). */
const COLUMNS = ['ABCDEFGH', 'JKLMNPQR', 'STUVWXYZ'] as const;
const ROWS = 'ABCDEFGHJKLMNPQRSTUV';
const ROWS_LATER_IN_EVEN_ZONES = 5;
const SQUARE_M = 100_000;
/** Rows come again after so many metres. */
const ROUND_M = ROWS.length * SQUARE_M;
/** Northings of the south count from here at the equator. */
const SOUTH_M = 10_000_000;
/** A degree of latitude along the central meridian, about: enough to tell rounds of rows apart. */
const DEGREE_M = 110_950;
/** Bands of eight degrees from 80° S on; the last one has twelve. */
const BANDS = 'CDEFGHJKLMNPQRSTUVWX';
const BAND_DEGREES = 8;
/** Ten metres: a place at the edge of a band is the metre below it. */
const EDGE_DEGREES = 0.0001;

const GRID = /^(\d+)([A-Z]) ([A-Z])([A-Z]) (\d{5}) (\d{5})$/;
const REFERENCE = /^(\d{1,2}) ?([C-HJ-NP-X]) (\d{6}) ?m? ?E?(?:, ?| )(\d{1,8}) ?m? ?N?$/i;

const rowOffset = (zone: number): number => (zone % 2 === 0 ? ROWS_LATER_IN_EVEN_ZONES : 0);

/** The northing of a latitude, about, as the whole number of rounds that lies nearest to it asks for. */
const aboutNorthingM = (latitude: number): number => latitude * DEGREE_M + (latitude < 0 ? SOUTH_M : 0);

/**
 * A place in the universal transverse Mercator grid on WGS 84, to the metre below: zone and band of latitude, easting, northing, as in
 * `23T 643648 4570037`. Null near the poles. The projection is that of the military grid, which names the same metres by letters.
 */
export function utmOf(position: Position): string | null {
  const [, zoneText, band, column, row, east, north] = GRID.exec(gridOf(position) ?? '') ?? [];
  if (!zoneText || !column || !row) return null;
  const zone = Number(zoneText);
  const easting = (COLUMNS[(zone - 1) % 3]!.indexOf(column) + 1) * SQUARE_M + Number(east);
  const within = ((ROWS.indexOf(row) - rowOffset(zone) + ROWS.length) % ROWS.length) * SQUARE_M + Number(north);
  const rounds = Math.round((aboutNorthingM(position.latitude) - within) / ROUND_M);
  return `${zone}${band} ${easting} ${within + rounds * ROUND_M}`;
}

/**
 * The place that zone, band, easting and northing name, to a metre; null for what is none. The letter is the band of latitude, as it is
 * written here, not the half of the world: `32S` lies in the north. A northing that does not lie in the band is none.
 */
export function positionOfUtm(text: string): { position: Position; withinM: number } | null {
  const [, zoneText, bandText, eastText, northText] = REFERENCE.exec(text.trim().replace(/\s+/g, ' ')) ?? [];
  if (!zoneText || !bandText) return null;
  const [zone, easting, northing] = [Number(zoneText), Number(eastText), Number(northText)];
  const band = BANDS.indexOf(bandText.toUpperCase());
  const column = COLUMNS[(zone - 1) % 3]?.[Math.floor(easting / SQUARE_M) - 1];
  if (zone < 1 || zone > 60 || !column || northing >= SOUTH_M) return null;
  const row = ROWS[(Math.floor(northing / SQUARE_M) + rowOffset(zone)) % ROWS.length]!;
  const metres = (value: number) => String(value % SQUARE_M).padStart(5, '0');
  const found = positionOfGrid(`${zone}${BANDS[band]}${column}${row}${metres(easting)}${metres(northing)}`);
  if (!found) return null;
  const { latitude } = found.position;
  const south = -80 + band * BAND_DEGREES;
  const north = band === BANDS.length - 1 ? 84 : south + BAND_DEGREES;
  const inBand = latitude > south - EDGE_DEGREES && latitude < north + EDGE_DEGREES;
  return inBand && Math.abs(aboutNorthingM(latitude) - northing) < ROUND_M / 2 ? found : null;
}
