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
import { bearerRoutes } from '@tombolo/contract/routes/bearers';
import { exportRoutes } from '@tombolo/contract/routes/exports';
import { heardRoutes } from '@tombolo/contract/routes/heard';
import { peopleRoutes } from '@tombolo/contract/routes/people';
import { stationRoutes } from '@tombolo/contract/routes/station';
import { trafficRoutes } from '@tombolo/contract/routes/traffic';
import { ask, upload, urlOf } from './ask';

/** What the first screens ask. What one place alone asks stands by that place, so that its schemas are loaded with it. */
const routes = {
  ...stationRoutes,
  ...trafficRoutes,
  ...peopleRoutes,
  ...heardRoutes,
  ...bearerRoutes,
  ...exportRoutes,
};

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

const EXPORTS = {
  'heard.pcap': routes.heardCapture,
  'heard.txt': routes.heardText,
  'log.csv': routes.log,
  'mail.mbox': routes.mailbox,
  'readings.csv': routes.readingsCsv,
  'stations.gpx': routes.placesGpx,
  'stations.kml': routes.placesKml,
  'stations.geojson': routes.placesGeoJson,
} as const;

/** The station's API, by the routes of the contract. */
export const api = {
  health: () => ask(routes.health, {}),
  settings: () => ask(routes.settings, {}),
  beaconNow: () => ask(routes.beaconNow, {}),
  positionNow: () => ask(routes.positionNow, {}),
  changeSettings: (body: SettingsChange) => ask(routes.changeSettings, { body }),
  items: (query: { text?: string; before?: string | null; limit?: number }) => ask(routes.items, { query }),
  openItems: () => ask(routes.openItems, {}),
  transmissions: (query: { before?: string | null; limit?: number }) => ask(routes.transmissions, { query }),
  item: (id: string) => ask(routes.item, { params: { id } }),
  queueItem: (body: NewItem) => ask(routes.queueItem, { body }),
  sendPosition: (body: NewPositionReport) => ask(routes.sendPosition, { body }),
  fileItems: (ids: readonly string[], filed: boolean) => ask(routes.fileItems, { body: { ids: [...ids], filed } }),
  act: (id: string, action: ItemAction) => ask(routes.act, { params: { id }, body: { action } }),
  packets: (query: HeardQuery & { before?: string | null; limit?: number }) =>
    ask(routes.packets, { query: { ...query } }),
  packet: (id: string) => ask(routes.packet, { params: { id } }),
  failures: (query: { importId?: string; before?: string | null; limit?: number }) => ask(routes.failures, { query }),
  stations: (since?: string) => ask(routes.stations, { query: { since } }),
  station: (call: string) => ask(routes.station, { params: { call } }),
  changeStation: (call: string, body: StationChange) => ask(routes.changeStation, { params: { call }, body }),
  trails: (hours: number, since?: string) => ask(routes.trails, { query: { hours, since } }),
  heardLinks: () => ask(routes.heardLinks, {}),
  readings: (kind: ReadingsView['kind'], hours: number) => ask(routes.readings, { query: { kind, hours } }),
  watches: () => ask(routes.watches, {}),
  addWatch: (body: NewWatch) => ask(routes.addWatch, { body }),
  changeWatch: (id: string, body: WatchChange) => ask(routes.changeWatch, { params: { id }, body }),
  removeWatch: (id: string) => ask(routes.removeWatch, { params: { id } }),
  alarms: () => ask(routes.alarms, {}),
  seeAlarm: (id: string) => ask(routes.seeAlarm, { params: { id } }),
  maps: () => ask(routes.maps, {}),
  addMap: (file: Blob, name: string, kind: string, progress: (share: number) => void) =>
    upload(routes.addMap, { query: { name, kind } }, file, progress),
  removeMap: (id: string) => ask(routes.removeMap, { params: { id } }),
  mapUrl: (id: string) => urlOf(routes.mapContent, { params: { id } }),
  bearers: () => ask(routes.bearers, {}),
  addBearer: (body: NewBearer) => ask(routes.addBearer, { body }),
  switchBearer: (id: string, enabled: boolean) => ask(routes.changeBearer, { params: { id }, body: { enabled } }),
  changeBearer: (id: string, config: BearerConfig, name?: string) =>
    ask(routes.changeBearer, { params: { id }, body: { config, ...(name !== undefined && { name }) } }),
  invitation: (id: string, channel: string) => ask(routes.invitation, { params: { id }, body: { channel } }),
  removeBearer: (id: string) => ask(routes.removeBearer, { params: { id } }),
  waiting: () => ask(routes.waiting, {}),
  dropWaiting: (ids: readonly string[]) => ask(routes.dropWaiting, { body: { ids: [...ids] } }),
  hold: () => ask(routes.hold, {}),
  holdEverything: (held: boolean) => ask(routes.changeHold, { body: { held } }),
  kept: () => ask(routes.kept, {}),
  backupPlan: () => ask(routes.backupPlan, {}),
  changeBackupPlan: (body: BackupPlanChange) => ask(routes.changeBackupPlan, { body }),
  backups: () => ask(routes.backups, {}),
  makeBackup: (passphrase: string) => ask(routes.makeBackup, { body: { passphrase } }),
  backupUrl: (id: string) => urlOf(routes.backupFile, { params: { id } }),
  imports: () => ask(routes.imports, {}),
  // As long as it takes to read: how far it is tells the list.
  importFile: (file: Blob, name: string, format: string) =>
    ask(routes.readRecording, { query: { name, format } }, { octets: file, withinMs: null }),
  removeImport: (id: string) => ask(routes.removeImport, { params: { id } }),
  meshNodes: () => ask(routes.meshNodes, {}),
  offers: (bearerId: string) => ask(routes.offers, { query: { bearerId } }),
  sessions: (bearerId: string) => ask(routes.sessions, { query: { bearerId } }),
  beginSession: (body: NewSession) => ask(routes.beginSession, { body }),
  typeLine: (id: string, line: string) => ask(routes.typeLine, { params: { id }, body: { line } }),
  endSession: (id: string) => ask(routes.endSession, { params: { id } }),
  relays: (id: string) => ask(routes.relays, { params: { id } }),
  relay: (id: string, body: NewRelay) => ask(routes.relay, { params: { id }, body }),
  people: () => ask(routes.people, {}),
  keepPerson: ({ id, ...body }: Pick<Person, 'id'> & PersonChange) => ask(routes.keepPerson, { params: { id }, body }),
  removePerson: (id: string) => ask(routes.removePerson, { params: { id } }),
  rules: () => ask(routes.rules, {}),
  addRule: (body: NewStandingRule) => ask(routes.addRule, { body }),
  changeRule: (id: string, body: RuleChange) => ask(routes.changeRule, { params: { id }, body }),
  removeRule: (id: string) => ask(routes.removeRule, { params: { id } }),
  attachmentUrl: (id: string) => urlOf(routes.attachment, { params: { id } }),
  messageUrl: (id: string) => urlOf(routes.message, { params: { id } }),
  simulation: () => ask(routes.simulation, {}),
  setSpeed: (speed: Simulation['speed']) => ask(routes.changeSimulation, { body: { speed } }),
  exportUrl: (file: ExportFile, query: HeardQuery | PlacesQuery = {}) => urlOf(EXPORTS[file], { query: { ...query } }),
};
