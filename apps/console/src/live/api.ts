import type {
  BackupPlanChange,
  BearerConfig,
  ItemAction,
  NewBearer,
  NewItem,
  NewPositionReport,
  NewRelay,
  NewSession,
  NewStandingRule,
  NewWatch,
  Person,
  PersonChange,
  ReadingsView,
  RuleChange,
  SettingsChange,
  Simulation,
  StationChange,
  WatchChange,
} from '@tombolo/contract';
import { backupRoutes } from '@tombolo/contract/routes/backups';
import { bearerRoutes } from '@tombolo/contract/routes/bearers';
import { exportRoutes } from '@tombolo/contract/routes/exports';
import { heardRoutes } from '@tombolo/contract/routes/heard';
import { importRoutes } from '@tombolo/contract/routes/imports';
import { mapRoutes } from '@tombolo/contract/routes/maps';
import { peopleRoutes } from '@tombolo/contract/routes/people';
import { positionRoutes } from '@tombolo/contract/routes/position';
import { relayRoutes } from '@tombolo/contract/routes/relays';
import { sessionRoutes } from '@tombolo/contract/routes/sessions';
import { stationRoutes } from '@tombolo/contract/routes/station';
import { trafficRoutes } from '@tombolo/contract/routes/traffic';
import { watchRoutes } from '@tombolo/contract/routes/watches';
import { writingRoutes } from '@tombolo/contract/routes/writing';
import { ask, upload, urlOf } from './ask';

export interface HeardQuery {
  text?: string;
  station?: string;
  kind?: string;
  bearerId?: string;
  importId?: string;
  from?: string;
  to?: string;
}

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

/**
 * The station's API, by the routes of the contract: each is looked up when it is asked, so that the schemas of a subject are built with its first
 * question. What one place alone asks stands by that place.
 */
export const api = {
  health: () => ask(stationRoutes.health, {}),
  settings: () => ask(stationRoutes.settings, {}),
  beaconNow: () => ask(positionRoutes.beaconNow, {}),
  waypointsNow: () => ask(positionRoutes.waypointsNow, {}),
  positionNow: () => ask(positionRoutes.positionNow, {}),
  changeSettings: (body: SettingsChange) => ask(stationRoutes.changeSettings, { body }),
  items: (query: { with?: string; text?: string; before?: string | null; limit?: number }) =>
    ask(trafficRoutes.items, { query }),
  openItems: () => ask(trafficRoutes.openItems, {}),
  transmissions: (query: { before?: string | null; limit?: number }) => ask(trafficRoutes.transmissions, { query }),
  item: (id: string) => ask(trafficRoutes.item, { params: { id } }),
  queueItem: (body: NewItem) => ask(writingRoutes.queueItem, { body }),
  sendPosition: (body: NewPositionReport) => ask(writingRoutes.sendPosition, { body }),
  fileItems: (ids: readonly string[], filed: boolean) =>
    ask(trafficRoutes.fileItems, { body: { ids: [...ids], filed } }),
  act: (id: string, action: ItemAction) => ask(trafficRoutes.act, { params: { id }, body: { action } }),
  packets: (query: HeardQuery & { before?: string | null; limit?: number }) =>
    ask(heardRoutes.packets, { query: { ...query } }),
  packet: (id: string) => ask(heardRoutes.packet, { params: { id } }),
  failures: (query: { importId?: string; before?: string | null; limit?: number }) =>
    ask(heardRoutes.failures, { query }),
  stations: (since?: string) => ask(heardRoutes.stations, { query: { since } }),
  station: (call: string) => ask(heardRoutes.station, { params: { call } }),
  changeStation: (call: string, body: StationChange) => ask(heardRoutes.changeStation, { params: { call }, body }),
  trails: (hours: number, since?: string) => ask(heardRoutes.trails, { query: { hours, since } }),
  heardLinks: () => ask(heardRoutes.heardLinks, {}),
  readings: (kind: ReadingsView['kind'], hours: number) => ask(heardRoutes.readings, { query: { kind, hours } }),
  watches: () => ask(watchRoutes.watches, {}),
  addWatch: (body: NewWatch) => ask(watchRoutes.addWatch, { body }),
  changeWatch: (id: string, body: WatchChange) => ask(watchRoutes.changeWatch, { params: { id }, body }),
  removeWatch: (id: string) => ask(watchRoutes.removeWatch, { params: { id } }),
  alarms: () => ask(watchRoutes.alarms, {}),
  takeAlarm: ({ id, by }: { id: string; by: string }) => ask(watchRoutes.takeAlarm, { params: { id }, body: { by } }),
  seeAlarm: (id: string) => ask(watchRoutes.seeAlarm, { params: { id } }),
  maps: () => ask(mapRoutes.maps, {}),
  addMap: (file: Blob, name: string, kind: string, progress: (share: number) => void) =>
    upload(mapRoutes.addMap, { query: { name, kind } }, file, progress),
  removeMap: (id: string) => ask(mapRoutes.removeMap, { params: { id } }),
  mapUrl: (id: string) => urlOf(mapRoutes.mapContent, { params: { id } }),
  bearers: () => ask(bearerRoutes.bearers, {}),
  addBearer: (body: NewBearer) => ask(bearerRoutes.addBearer, { body }),
  switchBearer: (id: string, enabled: boolean) => ask(bearerRoutes.changeBearer, { params: { id }, body: { enabled } }),
  changeBearer: (id: string, config: BearerConfig, name?: string) =>
    ask(bearerRoutes.changeBearer, { params: { id }, body: { config, ...(name !== undefined && { name }) } }),
  invitation: (id: string, channel: string) => ask(bearerRoutes.invitation, { params: { id }, body: { channel } }),
  removeBearer: (id: string) => ask(bearerRoutes.removeBearer, { params: { id } }),
  waiting: () => ask(bearerRoutes.waiting, {}),
  dropWaiting: (ids: readonly string[]) => ask(bearerRoutes.dropWaiting, { body: { ids: [...ids] } }),
  hold: () => ask(bearerRoutes.hold, {}),
  holdEverything: (held: boolean) => ask(bearerRoutes.changeHold, { body: { held } }),
  kept: () => ask(stationRoutes.kept, {}),
  backupPlan: () => ask(backupRoutes.backupPlan, {}),
  changeBackupPlan: (body: BackupPlanChange) => ask(backupRoutes.changeBackupPlan, { body }),
  backups: () => ask(backupRoutes.backups, {}),
  makeBackup: (passphrase: string) => ask(backupRoutes.makeBackup, { body: { passphrase } }),
  backupUrl: (id: string) => urlOf(backupRoutes.backupFile, { params: { id } }),
  imports: () => ask(importRoutes.imports, {}),
  // As long as it takes to read: how far it is tells the list.
  importFile: (file: Blob, name: string, format: string) =>
    ask(importRoutes.readRecording, { query: { name, format } }, { octets: file, withinMs: null }),
  removeImport: (id: string) => ask(importRoutes.removeImport, { params: { id } }),
  meshNodes: () => ask(sessionRoutes.meshNodes, {}),
  offers: (bearerId: string) => ask(sessionRoutes.offers, { query: { bearerId } }),
  sessions: (bearerId: string) => ask(sessionRoutes.sessions, { query: { bearerId } }),
  beginSession: (body: NewSession) => ask(sessionRoutes.beginSession, { body }),
  typeLine: (id: string, line: string) => ask(sessionRoutes.typeLine, { params: { id }, body: { line } }),
  endSession: (id: string) => ask(sessionRoutes.endSession, { params: { id } }),
  relays: (id: string) => ask(relayRoutes.relays, { params: { id } }),
  relay: (id: string, body: NewRelay) => ask(relayRoutes.relay, { params: { id }, body }),
  people: () => ask(peopleRoutes.people, {}),
  keepPerson: ({ id, ...body }: Pick<Person, 'id'> & PersonChange) =>
    ask(peopleRoutes.keepPerson, { params: { id }, body }),
  removePerson: (id: string) => ask(peopleRoutes.removePerson, { params: { id } }),
  rules: () => ask(relayRoutes.rules, {}),
  addRule: (body: NewStandingRule) => ask(relayRoutes.addRule, { body }),
  changeRule: (id: string, body: RuleChange) => ask(relayRoutes.changeRule, { params: { id }, body }),
  removeRule: (id: string) => ask(relayRoutes.removeRule, { params: { id } }),
  attachmentUrl: (id: string) => urlOf(trafficRoutes.attachment, { params: { id } }),
  messageUrl: (id: string) => urlOf(trafficRoutes.message, { params: { id } }),
  simulation: () => ask(stationRoutes.simulation, {}),
  setSpeed: (speed: Simulation['speed']) => ask(stationRoutes.changeSimulation, { body: { speed } }),
  exportUrl: (file: ExportFile, query: HeardQuery | PlacesQuery = {}) =>
    urlOf(fileRoute(file), { query: { ...query } }),
};
