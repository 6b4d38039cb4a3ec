/** The tables of what is heard, anew and in parts by month. What was there before stands beside them until it is carried over. */
export const TABLES = `
  create schema months;

  alter table packet rename to packet_before;
  alter table reception rename to reception_before;
  alter table trail_point rename to trail_point_before;
  alter table weather_reading rename to weather_reading_before;
  alter table telemetry_reading rename to telemetry_reading_before;
  alter table packet_before alter column id drop default;
  alter table reception_before alter column id drop default;
  alter sequence packet_id_seq owned by none;
  alter sequence reception_id_seq owned by none;
  alter table item drop constraint item_packet_id_fkey;
  alter table evidence drop constraint evidence_packet_id_fkey;

  -- From which link or recording something came, by which port of the modem and on which frequency it was set then.
  create table channel (
    id int generated always as identity primary key,
    bearer_id text,
    import_id uuid,
    port int,
    frequency_hz bigint,
    unique nulls not distinct (bearer_id, import_id, port, frequency_hz)
  );
  create index channel_import on channel (import_id) where import_id is not null;

  -- On which a try went out; not known of those that are older.
  alter table attempt add column channel_id int;

  create table packet (
    id bigint not null,
    identity bytea not null,
    source text not null,
    destination text not null,
    kind text not null,
    addressee text,
    summary text not null
  ) partition by range (id);

  create table reception (
    id bigint not null,
    packet_id bigint,
    recorded_at timestamptz not null,
    channel_id int not null,
    -- Whether it was the first hearing of its packet, and the first by its link or recording.
    opens boolean not null,
    opens_here boolean not null,
    form text not null,
    raw bytea not null,
    snr_db real,
    rssi_dbm real,
    error_at int,
    error text
  ) partition by range (id);

  create table trail_point (
    call text not null,
    packet_id bigint not null,
    latitude double precision not null,
    longitude double precision not null,
    course_deg double precision,
    speed_knots double precision,
    altitude_m double precision,
    -- Why it is kept off the trail.
    fault text
  ) partition by range (packet_id);

  create table weather_reading (call text not null, packet_id bigint not null, weather jsonb not null)
    partition by range (packet_id);
  create table telemetry_reading (
    call text not null,
    packet_id bigint not null,
    sequence text not null,
    analog double precision[] not null,
    bits text
  ) partition by range (packet_id);

  create table monthly (name text primary key, key text not null);
  insert into monthly values ('packet', 'id'), ('reception', 'id'), ('trail_point', 'packet_id'),
    ('weather_reading', 'packet_id'), ('telemetry_reading', 'packet_id');

  -- What lies outside the months that are kept whole, and what is kept of months that were dropped.
  create table months.packet_rest partition of packet default;
  create table months.reception_rest partition of reception default;
  create table months.trail_point_rest partition of trail_point default;
  create table months.weather_reading_rest partition of weather_reading default;
  create table months.telemetry_reading_rest partition of telemetry_reading default;
`;
