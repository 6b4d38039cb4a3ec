import type { ReadingsView } from '@tombolo/contract';
import { exportRoutes } from '@tombolo/contract/routes/exports';
import type { HeardQuery } from './api';
import { urlOf } from './ask';

export type ExportFile =
  'heard.pcap' | 'heard.txt' | 'log.csv' | 'mail.mbox' | 'readings.csv' | `stations.${'gpx' | 'kml' | 'geojson'}`;
export interface PlacesQuery {
  call?: string;
  hours?: number;
  kind?: ReadingsView['kind'];
}

const fileRoute = (file: ExportFile) =>
  ({
    'heard.pcap': exportRoutes.heardCapture,
    'heard.txt': exportRoutes.heardText,
    'log.csv': exportRoutes.log,
    'mail.mbox': exportRoutes.mailbox,
    'readings.csv': exportRoutes.readingsCsv,
    'stations.gpx': exportRoutes.placesGpx,
    'stations.kml': exportRoutes.placesKml,
    'stations.geojson': exportRoutes.placesGeoJson,
  })[file];

/** Where a file for other programs is fetched. */
export const exportUrl = (file: ExportFile, query: HeardQuery | PlacesQuery = {}): string =>
  urlOf(fileRoute(file), { query: { ...query } });
