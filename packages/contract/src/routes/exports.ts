import { z } from 'zod';
import { heardFilter } from '../heard';
import { placesExportQuery, readingsQuery } from '../stations';
import { instant } from '../traffic';
import { route } from './route';

const spanQuery = z.object({ from: instant.optional(), to: instant.optional() });

/** Files to hand in: what was heard, and the communications log. */
export const exportRoutes = {
  heardCapture: route({
    method: 'get',
    path: '/exports/heard.pcap',
    summary: 'What was heard, as a capture file',
    query: heardFilter,
    answer: 'application/vnd.tcpdump.pcap',
  }),
  heardText: route({
    method: 'get',
    path: '/exports/heard.txt',
    summary: 'What was heard, as monitor text',
    query: heardFilter,
    answer: 'text/plain',
  }),
  placesGpx: route({
    method: 'get',
    path: '/exports/stations.gpx',
    summary: 'Stations and trails (GPX 1.1)',
    query: placesExportQuery,
    answer: 'application/gpx+xml',
  }),
  placesKml: route({
    method: 'get',
    path: '/exports/stations.kml',
    summary: 'Stations and trails (KML 2.2)',
    query: placesExportQuery,
    answer: 'application/vnd.google-earth.kml+xml',
  }),
  placesGeoJson: route({
    method: 'get',
    path: '/exports/stations.geojson',
    summary: 'Stations and trails (RFC 7946)',
    query: placesExportQuery,
    answer: 'application/geo+json',
  }),
  readingsCsv: route({
    method: 'get',
    path: '/exports/readings.csv',
    summary: 'Weather or telemetry',
    query: readingsQuery,
    answer: 'text/csv',
  }),
  mailbox: route({
    method: 'get',
    path: '/exports/mail.mbox',
    summary: 'All mail (RFC 4155)',
    answer: 'application/mbox',
  }),
  conversation: route({
    method: 'get',
    path: '/exports/conversation.pdf',
    summary: 'All that passed with somebody, as a document',
    query: z.object({ with: z.string().trim().min(1).max(254) }),
    answer: 'application/pdf',
  }),
  log: route({
    method: 'get',
    path: '/exports/log.csv',
    summary: 'The communications log',
    query: spanQuery,
    answer: 'text/csv',
  }),
};
