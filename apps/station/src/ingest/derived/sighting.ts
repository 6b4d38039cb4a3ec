import {
  COPY_WINDOW_MS,
  directness,
  judgePoint,
  placeOf,
  symbolMeaning,
  type HeardPath,
  type Information,
  type TrailFault,
} from '@tombolo/core';
import { draftOf, type Draft } from './draft';
import type { StationKind, StationState } from './station-state';

/** One reception as it concerns one station. */
export interface Sighting {
  readonly atMs: number;
  readonly path: HeardPath;
  readonly words: string;
  readonly bearerId: string | null;
  readonly information: Information | null;
  readonly source: string;
  /** Copies of a packet tell how it was heard, but not again what it says. */
  readonly isNewPacket: boolean;
}

const FEET_M = 0.3048;
const FAST = new Set(['aircraft', 'balloon', 'satellite']);

export const unheard = (call: string, kind: StationKind, name: string, owner: string | null): Draft =>
  draftOf({
    call,
    kind,
    name,
    owner,
    live: true,
    conflict: null,
    firstAtMs: Infinity,
    lastAtMs: -Infinity,
    howAtMs: -Infinity,
    how: 'internet',
    via: [],
    words: '',
    bearerId: null,
    bearers: [],
    directAtMs: null,
    relaysAtMs: null,
    messaging: null,
    positionAtMs: null,
    latitude: null,
    longitude: null,
    ambiguity: 0,
    symbol: null,
    courseDeg: null,
    speedKnots: null,
    altitudeM: null,
    comment: null,
    frequency: null,
    status: null,
    statusAtMs: null,
    message: null,
    weatherAtMs: null,
    telemetryAtMs: null,
    packets: 0,
    moves: 0,
    doubt: null,
  });

const later = (a: number | null, b: number): number => (a === null ? b : Math.max(a, b));

/** Of copies inside the window the most direct one says how a station is heard; otherwise the newest. */
function tellsMore(state: StationState, { atMs, path }: Sighting): boolean {
  const laterMs = atMs - state.howAtMs;
  if (Math.abs(laterMs) > COPY_WINDOW_MS) return laterMs > 0;
  return directness(path) < directness(state) || (directness(path) === directness(state) && laterMs >= 0);
}

export function hear(draft: Draft, sighting: Sighting): void {
  const { atMs, path, words, bearerId } = sighting;
  if (tellsMore(draft, sighting)) {
    draft.howAtMs = atMs;
    draft.how = path.how;
    draft.via = path.via;
    draft.words = words;
    draft.bearerId = bearerId;
  }
  draft.firstAtMs = Math.min(draft.firstAtMs, atMs);
  draft.lastAtMs = Math.max(draft.lastAtMs, atMs);
  if (path.how === 'direct' && path.heardFromCertain) draft.directAtMs = later(draft.directAtMs, atMs);
  if (bearerId !== null && !draft.bearers.includes(bearerId)) draft.bearers = [...draft.bearers, bearerId];
}

/** A point as the trail takes it. */
export interface PlacedPoint {
  readonly atMs: number;
  readonly latitude: number;
  readonly longitude: number;
  readonly courseDeg: number | null;
  readonly speedKnots: number | null;
  readonly altitudeM: number | null;
  readonly fault: TrailFault | null;
}

/** Adds to a station what a reception tells, in its place; gives the point for the trail. */
export function sight(
  before: Draft | null,
  call: string,
  sighting: Sighting,
): { state: Draft; point: PlacedPoint | null } {
  const { information } = sighting;
  const draft = before ?? unheard(call, 'station', call, null);
  hear(draft, sighting);
  if (!sighting.isNewPacket) return { state: draft, point: null };
  draft.packets++;
  const { atMs } = sighting;
  if (information?.kind === 'status' && atMs >= (draft.statusAtMs ?? -Infinity)) {
    draft.status = information.text;
    draft.statusAtMs = atMs;
  }
  if (information && 'messaging' in information) draft.messaging = information.messaging;
  // Who sends or answers messages takes them.
  if (information && (information.kind === 'message' || information.kind === 'ack')) draft.messaging = true;
  if (information && 'weather' in information && information.weather)
    draft.weatherAtMs = later(draft.weatherAtMs, atMs);
  if (information && (information.kind === 'telemetry' || ('telemetry' in information && information.telemetry)))
    draft.telemetryAtMs = later(draft.telemetryAtMs, atMs);
  const own = information && information.kind !== 'object' && information.kind !== 'item' ? information : null;
  return { state: draft, point: own ? place(draft, own, atMs) : null };
}

/** What a report of an object adds to it. A stranger may move it, with a remark, but not take it off the map. */
export function sightObject(
  before: Draft | null,
  key: string,
  report: Extract<Information, { kind: 'object' | 'item' }>,
  sighting: Sighting,
): { state: Draft; point: PlacedPoint | null } {
  const { source, atMs } = sighting;
  const draft = before ?? unheard(key, report.kind, report.name, source);
  hear(draft, sighting);
  if (!sighting.isNewPacket) return { state: draft, point: null };
  draft.packets++;
  if (atMs < (draft.positionAtMs ?? -Infinity)) return { state: draft, point: place(draft, report, atMs) };
  const stranger = draft.owner !== null && draft.owner !== source;
  if (!report.live) {
    if (stranger && draft.live) {
      draft.conflict = `${source} says that it is gone; it is ${draft.owner}’s, who has not said so`;
      return { state: draft, point: null };
    }
    draft.live = false;
    draft.conflict = null;
  } else {
    draft.conflict =
      stranger && draft.live ? `taken over by ${source} from ${draft.owner}` : stranger ? null : draft.conflict;
    draft.owner = source;
    draft.live = true;
  }
  return { state: draft, point: place(draft, report, atMs) };
}

/** A digipeater whose call stands in the path of somebody else's packet. */
export function sightRelay(before: Draft | null, call: string, sighting: Sighting): Draft {
  const draft = before ?? unheard(call, 'station', call, null);
  const { atMs, path } = sighting;
  draft.relaysAtMs = later(draft.relaysAtMs, atMs);
  const direct = path.heardFrom === call && path.heardFromCertain;
  if (before === null) {
    draft.firstAtMs = draft.lastAtMs = draft.howAtMs = atMs;
    draft.how = direct ? 'direct' : path.how === 'internet' ? 'internet' : 'relayed';
    draft.words = `known from passing on ${sighting.source}`;
    draft.bearerId = sighting.bearerId;
    draft.bearers = sighting.bearerId === null ? [] : [sighting.bearerId];
  }
  if (direct) {
    draft.directAtMs = later(draft.directAtMs, atMs);
    draft.lastAtMs = Math.max(draft.lastAtMs, atMs);
  }
  return draft;
}

function place(draft: Draft, information: Information, atMs: number): PlacedPoint | null {
  const at = placeOf(information);
  if (!at) return null;
  // The middle of a locator square is coarse: it serves only where nothing better is known.
  const coarse = information.kind === 'status' || information.kind === 'locator';
  if (coarse && draft.positionAtMs !== null) return null;
  const courseDeg = 'courseDeg' in information ? information.courseDeg : null;
  const speedKnots = 'speedKnots' in information ? information.speedKnots : null;
  const altitudeM =
    'altitudeFt' in information && information.altitudeFt !== null
      ? information.altitudeFt * FEET_M
      : 'altitudeM' in information
        ? information.altitudeM
        : null;
  const symbol = 'symbol' in information ? information.symbol : null;
  const fast = symbol !== null && FAST.has(symbolMeaning(symbol));
  const moved = moveTo(
    draft,
    { atMs, latitude: at.latitude, longitude: at.longitude, courseDeg, speedKnots, altitudeM },
    fast,
  );
  if (!moved.taken) return moved.point;
  draft.ambiguity = 'ambiguity' in information ? information.ambiguity : 0;
  if (symbol) draft.symbol = symbol.table + symbol.code;
  if ('comment' in information) draft.comment = information.comment;
  if ('frequency' in information && information.frequency) draft.frequency = information.frequency;
  draft.message = information.kind === 'Mic-E' ? information.message : draft.message;
  return moved.point;
}

/** Moves it to a point, unless that lies in the past or is not believed. */
export function moveTo(
  draft: Draft,
  point: Omit<PlacedPoint, 'fault'>,
  fast: boolean,
): { readonly point: PlacedPoint; readonly taken: boolean } {
  const { atMs, latitude, longitude, courseDeg, speedKnots, altitudeM } = point;
  // Property by property: spreading costs more than all else that is done with a point.
  const placed = (fault: TrailFault | null): PlacedPoint => ({
    atMs,
    latitude,
    longitude,
    courseDeg,
    speedKnots,
    altitudeM,
    fault,
  });
  // A recording of the past adds to the trail, and leaves the present alone.
  if (atMs < (draft.positionAtMs ?? -Infinity)) return { point: placed(null), taken: false };
  const last =
    draft.positionAtMs !== null && draft.latitude !== null && draft.longitude !== null
      ? { latitude: draft.latitude, longitude: draft.longitude, atMs: draft.positionAtMs, speedKnots: draft.speedKnots }
      : null;
  const fault = judgePoint(point, last, draft.doubt && { ...draft.doubt, speedKnots: null }, fast);
  if (fault === 'jump') {
    draft.doubt = { atMs, latitude, longitude };
    return { point: placed(fault), taken: false };
  }
  draft.positionAtMs = atMs;
  draft.latitude = latitude;
  draft.longitude = longitude;
  draft.courseDeg = courseDeg;
  draft.speedKnots = speedKnots;
  draft.altitudeM = altitudeM;
  draft.doubt = null;
  if (fault === null) draft.moves++;
  return { point: placed(fault), taken: true };
}
