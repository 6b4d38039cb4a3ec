import type { TelemetryMeaning, Weather } from '@tombolo/core';
import type { Watch } from '@tombolo/contract';
import {
  bigint,
  counted,
  double,
  doubles,
  flag,
  instant,
  integer,
  json,
  jsonAsWritten,
  key,
  maybe,
  octets,
  real,
  table,
  text,
  uuid,
} from '../table';

/** Receptions, packets and readings lie in monthly partitions; an identifier carries its time. */
export const ReceptionEntity = table('reception', {
  id: key(bigint()),
  packetId: maybe(bigint()),
  recordedAt: instant(),
  channelId: integer(),
  opens: flag(),
  opensHere: flag(),
  form: text(),
  raw: octets(),
  snrDb: maybe(real()),
  rssiDbm: maybe(real()),
  errorAt: maybe(integer()),
  error: maybe(text()),
});

export const PacketEntity = table('packet', {
  id: key(bigint()),
  identity: octets(),
  source: text(),
  destination: text(),
  kind: text(),
  addressee: maybe(text()),
  summary: text(),
});

export const TrailPointEntity = table('trail_point', {
  call: key(text()),
  packetId: key(bigint()),
  latitude: double(),
  longitude: double(),
  courseDeg: maybe(double()),
  speedKnots: maybe(double()),
  altitudeM: maybe(double()),
  fault: maybe(text()),
});

export const WeatherReadingEntity = table('weather_reading', {
  call: key(text()),
  packetId: key(bigint()),
  weather: json<Weather>(),
});

export const TelemetryReadingEntity = table('telemetry_reading', {
  call: key(text()),
  packetId: key(bigint()),
  sequence: text(),
  analog: doubles(),
  bits: maybe(text()),
});

export const TelemetryMeaningEntity = table('telemetry_meaning', {
  call: key(text()),
  meaning: json<TelemetryMeaning>(),
  changedAt: instant(),
});

export const StationEntity = table('station', {
  call: key(text()),
  state: jsonAsWritten<unknown>(),
  lastAt: instant(),
  changedAt: instant(),
});

export const StationNoteEntity = table('station_note', {
  call: key(text()),
  note: text(),
  muted: flag(),
});

export const HeardLinkEntity = table('heard_link', {
  fromCall: key(text()),
  byCall: key(text()),
  count: integer(),
  firstCount: integer(),
  firstAt: instant(),
  lastAt: instant(),
  bestKm: maybe(double()),
  bestAt: maybe(instant()),
  certainCount: integer(),
  /** By the hour since 1970: how often proved, inferred, missed. */
  hours: json<Record<string, readonly [number, number, number]>>(),
});

export const WatchEntity = table('watch', {
  id: key(uuid()),
  call: text(),
  quantity: text(),
  threshold: json<Watch['threshold']>(),
  enabled: flag(),
  raised: flag(),
  createdAt: instant(),
});

export const AlarmEntity = table('alarm', {
  id: counted(bigint()),
  watchId: maybe(uuid()),
  call: text(),
  words: text(),
  at: instant(),
  packetId: maybe(bigint()),
  seenAt: maybe(instant()),
  kind: text<'watch' | 'emergency'>(),
  drill: flag(),
  /** Who took it; an emergency is not done with by being seen. */
  takenBy: maybe(text()),
  endedAt: maybe(instant()),
});
