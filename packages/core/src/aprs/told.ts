import { positionOfLocator } from '../geo/locator';
import type { ParseError } from '../result';
import type { Information } from './information';
import type { Weather } from './weather';

/** Where a packet says that something is; null for packets without position, and for 0° 0′. */
export function placeOf(data: Information): { latitude: number; longitude: number } | null {
  switch (data.kind) {
    case 'position':
    case 'Mic-E':
    case 'object':
    case 'item':
    case 'locator':
      return real(data.latitude, data.longitude);
    case 'NMEA':
      // A waypoint is where somebody means to go.
      return data.latitude === null || data.longitude === null || data.valid === false || data.waypoint !== null
        ? null
        : real(data.latitude, data.longitude);
    case 'status': {
      const position = data.locator === null ? null : positionOfLocator(data.locator);
      return position?.ok ? position.value : null;
    }
    default:
      return null;
  }
}

const real = (latitude: number, longitude: number) =>
  Math.abs(latitude) < 1e-4 && Math.abs(longitude) < 1e-4 ? null : { latitude, longitude };

/** What could not be read of a packet that otherwise was. */
export const faultsOf = (data: Information): readonly ParseError[] => ('faults' in data ? data.faults : NONE);
const NONE: readonly ParseError[] = [];

/** The weather that a packet tells, with or without position. */
export const weatherOf = (data: Information): Weather | null => ('weather' in data ? data.weather : null);
