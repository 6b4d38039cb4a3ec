import {
  alarm,
  backupView,
  bearerView,
  failureView,
  health,
  heardLink,
  holdView,
  importView,
  invitationView,
  itemDetail,
  itemSummary,
  mapView,
  meshNodeView,
  offerView,
  packetDetail,
  packetSummary,
  pageOf,
  problem,
  readingsView,
  relayProposal,
  sessionView,
  settings,
  simulation,
  standingRule,
  stationDetail,
  stationView,
  trailView,
  watch,
  type BearerConfig,
  type ItemAction,
  type NewBearer,
  type NewMail,
  type NewMeshText,
  type NewPost,
  type NewRelay,
  type NewSession,
  type NewStandingRule,
  type NewText,
  type NewWatch,
  type ReadingsView,
  type SettingsChange,
  type Simulation,
  type StationChange,
} from '@tombolo/contract';
import { z } from 'zod';

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

const AWAY = 'The station does not answer. Nothing you entered is lost; it is tried again when the station is back.';

/** No page waits longer for an answer. */
const WITHIN_MS = 30_000;
const LATE =
  'It did not answer within 30 s. Whether a change was made is not certain: look before you try again. What you entered is kept here.';

async function ask<T extends z.ZodType>(
  schema: T,
  path: string,
  init?: RequestInit,
  withinMs: number | null = WITHIN_MS,
): Promise<z.output<T>> {
  let answer: Response;
  let body: unknown;
  const bound = new AbortController();
  const late = withinMs === null ? undefined : setTimeout(() => bound.abort(), withinMs);
  try {
    answer = await fetch(BASE + path, { ...init, signal: bound.signal });
    body = answer.status === 204 ? null : await answer.json().catch(() => undefined);
    if (bound.signal.aborted) throw new Error('too late');
  } catch {
    if (bound.signal.aborted) throw new StationProblem('The station takes too long', LATE, 'late');
    throw new StationProblem('No connection to the station', AWAY, 'away');
  } finally {
    clearTimeout(late);
  }
  return readAnswer(schema, answer.status, body);
}

function readAnswer<T extends z.ZodType>(schema: T, status: number, body: unknown): z.output<T> {
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
  const parsed = schema.safeParse(body);
  if (!parsed.success)
    throw new StationProblem(
      'The station speaks another version',
      'Reload this page; if it stays, restart the station.',
      'version',
    );
  return parsed.data;
}

const sending = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

const queryOf = (parameters: Record<string, string | number | boolean | undefined | null>): string => {
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
function upload<T extends z.ZodType>(
  schema: T,
  path: string,
  file: Blob,
  progress: (share: number) => void,
): Promise<z.output<T>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', BASE + path);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) progress(event.loaded / event.total);
    };
    request.onerror = () => reject(new StationProblem('No connection to the station', AWAY, 'away'));
    request.onload = () => {
      try {
        resolve(readAnswer(schema, request.status, JSON.parse(request.responseText)));
      } catch (error) {
        reject(error as Error);
      }
    };
    request.send(file);
  });
}

/** The station's API; every answer goes through its schema. */
export const api = {
  health: () => ask(health, '/health'),
  settings: () => ask(settings, '/settings'),
  changeSettings: (change: SettingsChange) => ask(settings, '/settings', sending('PATCH', change)),
  items: (query: { text?: string; before?: string | null; limit?: number }) =>
    ask(pageOf(itemSummary), `/items${queryOf(query)}`),
  item: (id: string) => ask(itemDetail, `/items/${encodeURIComponent(id)}`),
  queueText: (text: NewText) => ask(itemDetail, '/items', sending('POST', text)),
  act: (id: string, action: ItemAction) =>
    ask(itemDetail, `/items/${encodeURIComponent(id)}/actions`, sending('POST', { action })),
  packets: (query: HeardQuery & { before?: string | null; limit?: number }) =>
    ask(pageOf(packetSummary), `/packets${queryOf({ ...query })}`),
  packet: (id: string) => ask(packetDetail, `/packets/${encodeURIComponent(id)}`),
  failures: (query: { importId?: string; before?: string | null; limit?: number }) =>
    ask(pageOf(failureView), `/failures${queryOf(query)}`),
  stations: (since?: string) => ask(z.array(stationView), `/stations${queryOf({ since })}`),
  station: (call: string) => ask(stationDetail, `/stations/${encodeURIComponent(call)}`),
  changeStation: (call: string, change: StationChange) =>
    ask(stationDetail, `/stations/${encodeURIComponent(call)}`, sending('PATCH', change)),
  trails: (hours: number, since?: string) => ask(z.array(trailView), `/trails${queryOf({ hours, since })}`),
  heardLinks: () => ask(z.array(heardLink), '/heard-links'),
  readings: (kind: ReadingsView['kind'], hours: number) =>
    ask(z.array(readingsView), `/readings${queryOf({ kind, hours })}`),
  watches: () => ask(z.array(watch), '/watches'),
  addWatch: (wanted: NewWatch) => ask(watch, '/watches', sending('POST', wanted)),
  turnWatch: (id: string, enabled: boolean) => ask(watch, `/watches/${id}`, sending('PATCH', { enabled })),
  removeWatch: (id: string) => ask(z.null(), `/watches/${id}`, { method: 'DELETE' }),
  alarms: () => ask(z.array(alarm), '/alarms'),
  seeAlarm: (id: string) => ask(alarm, `/alarms/${id}/seen`, { method: 'POST' }),
  maps: () => ask(z.array(mapView), '/maps'),
  addMap: (file: Blob, name: string, kind: string, progress: (share: number) => void) =>
    upload(mapView, `/maps${queryOf({ name, kind })}`, file, progress),
  removeMap: (id: string) => ask(z.null(), `/maps/${id}`, { method: 'DELETE' }),
  mapUrl: (id: string) => `${BASE}/maps/${id}/content`,
  bearers: () => ask(z.array(bearerView), '/bearers'),
  addBearer: (bearer: NewBearer) => ask(bearerView, '/bearers', sending('POST', bearer)),
  switchBearer: (id: string, enabled: boolean) =>
    ask(bearerView, `/bearers/${encodeURIComponent(id)}`, sending('PATCH', { enabled })),
  changeBearer: (id: string, config: BearerConfig) =>
    ask(bearerView, `/bearers/${encodeURIComponent(id)}`, sending('PATCH', { config })),
  invitation: (id: string, channel: string) =>
    ask(invitationView, `/bearers/${encodeURIComponent(id)}/invitations`, sending('POST', { channel })),
  hold: () => ask(holdView, '/hold'),
  holdEverything: (held: boolean) => ask(holdView, '/hold', sending('PUT', { held })),
  backups: () => ask(z.array(backupView), '/backups'),
  makeBackup: (passphrase: string) => ask(backupView, '/backups', sending('POST', { passphrase })),
  backupUrl: (id: string) => `${BASE}/backups/${id}/file`,
  removeBearer: (id: string) => ask(z.null(), `/bearers/${encodeURIComponent(id)}`, { method: 'DELETE' }),
  imports: () => ask(z.array(importView), '/imports'),
  importFile: (file: Blob, name: string, format: string) =>
    ask(
      importView,
      `/imports${queryOf({ name, format })}`,
      { method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body: file },
      // As long as it takes to read: how far it is tells the list.
      null,
    ),
  removeImport: (id: string) => ask(z.null(), `/imports/${id}`, { method: 'DELETE' }),
  queuePost: (post: NewPost) => ask(itemDetail, '/posts', sending('POST', post)),
  queueMail: (mail: NewMail) => ask(itemDetail, '/mails', sending('POST', mail)),
  queueMeshText: (text: NewMeshText) => ask(itemDetail, '/mesh-texts', sending('POST', text)),
  meshNodes: () => ask(z.array(meshNodeView), '/mesh-nodes'),
  offers: (bearerId: string) => ask(z.array(offerView), `/offers${queryOf({ bearerId })}`),
  sessions: (bearerId: string) => ask(z.array(sessionView), `/sessions${queryOf({ bearerId })}`),
  beginSession: (session: NewSession) => ask(sessionView, '/sessions', sending('POST', session)),
  typeLine: (id: string, line: string) => ask(sessionView, `/sessions/${id}/lines`, sending('POST', { line })),
  endSession: (id: string) => ask(sessionView, `/sessions/${id}`, { method: 'DELETE' }),
  relays: (id: string) => ask(z.array(relayProposal), `/items/${encodeURIComponent(id)}/relays`),
  relay: (id: string, relay: NewRelay) =>
    ask(itemDetail, `/items/${encodeURIComponent(id)}/relays`, sending('POST', relay)),
  rules: () => ask(z.array(standingRule), '/rules'),
  addRule: (rule: NewStandingRule) => ask(standingRule, '/rules', sending('POST', rule)),
  turnRule: (id: string, enabled: boolean) => ask(standingRule, `/rules/${id}`, sending('PATCH', { enabled })),
  removeRule: (id: string) => ask(z.null(), `/rules/${id}`, { method: 'DELETE' }),
  attachmentUrl: (id: string) => `${BASE}/attachments/${id}`,
  messageUrl: (id: string) => `${BASE}/items/${id}/message.eml`,
  simulation: () => ask(simulation.nullable(), '/simulation'),
  setSpeed: (speed: Simulation['speed']) => ask(simulation, '/simulation', sending('PUT', { speed })),
  exportUrl: (file: ExportFile, query: HeardQuery | PlacesQuery = {}) =>
    `${BASE}/exports/${file}${queryOf({ ...query })}`,
};
