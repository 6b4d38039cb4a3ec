import {
  type AnswerOf,
  type AskedOf,
  type BackupPlanChange,
  type BearerConfig,
  type ItemAction,
  type NewBearer,
  type NewItem,
  type NewPositionReport,
  type NewRelay,
  type NewSession,
  type NewStandingRule,
  type NewWatch,
  pathOf,
  type Person,
  type PersonChange,
  problem,
  type ReadingsView,
  type Route,
  routes,
  type RuleChange,
  type SettingsChange,
  type Simulation,
  type StationChange,
  type WatchChange,
} from '@tombolo/contract';
import type { z } from 'zod';

const BASE = '/api/v1';

/** An answer of the station that says what is wrong, in words for the operator. */
export class StationProblem extends Error {
  constructor(
    readonly title: string,
    detail: string,
    readonly code: string,
    readonly fields: Readonly<Record<string, string>> = {},
  ) {
    super(detail);
  }
}

/** Pages are loaded again when the connection is back; what somebody pressed is not done again by itself. */
const AWAY = {
  read: 'The station does not answer. This is loaded again by itself when it is back.',
  change:
    'The station does not answer: this was not done, or nobody knows whether it was. What you entered is kept here; press again when it is back.',
} as const;

/** No page waits longer for an answer. */
const WITHIN_MS = 30_000;
const LATE =
  'It did not answer within 30 s. Whether a change was made is not certain: look before you try again. What you entered is kept here.';

type Query = Readonly<Record<string, string | number | boolean | null | undefined>>;
interface Asked {
  readonly params?: Readonly<Record<string, string>>;
  readonly query?: Query;
  readonly body?: unknown;
}

/** Where a route of the contract is, with what is asked of it. */
const urlOf = ({ path }: Route, { params, query }: Asked): string =>
  `${BASE}${pathOf(path, params)}${query ? queryOf(query) : ''}`;

/** Asks by a route of the contract: what goes out has its types, what comes back goes through its schema. */
async function ask<R extends Route>(
  route: R,
  asked: AskedOf<R>,
  { octets, withinMs = WITHIN_MS }: { octets?: Blob; withinMs?: number | null } = {},
): Promise<AnswerOf<R>> {
  const { body } = asked as Asked;
  let answer: Response;
  let told: unknown;
  const bound = new AbortController();
  const late = withinMs === null ? undefined : setTimeout(() => bound.abort(), withinMs);
  try {
    answer = await fetch(urlOf(route, asked as Asked), {
      ...(route.method !== 'get' && { method: route.method.toUpperCase() }),
      ...(octets && { headers: { 'content-type': 'application/octet-stream' }, body: octets }),
      ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
      signal: bound.signal,
    });
    told = answer.status === 204 ? null : await answer.json().catch(() => undefined);
    if (bound.signal.aborted) throw new Error('too late');
  } catch {
    if (bound.signal.aborted) throw new StationProblem('The station takes too long', LATE, 'late');
    throw new StationProblem('No connection to the station', AWAY[route.method === 'get' ? 'read' : 'change'], 'away');
  } finally {
    clearTimeout(late);
  }
  return readAnswer(route, answer.status, told);
}

function readAnswer<R extends Route>({ answer }: R, status: number, body: unknown): AnswerOf<R> {
  if (status >= 400) {
    const told = problem.safeParse(body);
    if (told.success)
      throw new StationProblem(
        told.data.title,
        told.data.detail,
        told.data.type.replace(/^tombolo:/, ''),
        told.data.fields,
      );
    throw new StationProblem('The station failed', `It answered ${status}.`, 'status');
  }
  if (answer === null || typeof answer === 'string') return undefined as AnswerOf<R>;
  const parsed = (answer as z.ZodType).safeParse(body);
  if (!parsed.success)
    throw new StationProblem(
      'The station speaks another version',
      'Reload this page; if it stays, restart the station.',
      'version',
    );
  return parsed.data as AnswerOf<R>;
}

const queryOf = (parameters: Query): string => {
  const query = new URLSearchParams();
  for (const [key, value] of Object.entries(parameters))
    if (value !== undefined && value !== null && value !== '') query.set(key, String(value));
  const text = query.toString();
  return text ? `?${text}` : '';
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

/** Sends a file and tells how far it is; what the station answers goes through its schema. */
function upload<R extends Route>(
  route: R,
  asked: AskedOf<R>,
  file: Blob,
  progress: (share: number) => void,
): Promise<AnswerOf<R>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', urlOf(route, asked as Asked));
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) progress(event.loaded / event.total);
    };
    request.onerror = () => reject(new StationProblem('No connection to the station', AWAY.change, 'away'));
    request.onload = () => {
      try {
        resolve(readAnswer(route, request.status, JSON.parse(request.responseText)));
      } catch (error) {
        reject(error as Error);
      }
    };
    request.send(file);
  });
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
