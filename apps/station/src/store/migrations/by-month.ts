import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What is heard, in monthly partitions. Identifiers of packets and receptions carry their time (`store/moments.ts`), so that an
 * identifier alone names the month, and what is sorted by it is sorted by time. What can be told from the octets is not stored beside
 * them. Partitions are made and dropped by functions of the owner: the role of the station cannot drop a row otherwise.
 */
export class ByMonth implements MigrationInterface {
  readonly name = 'ByMonth1790600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(MOMENTS);
    await runner.query(TABLES);
    await runner.query(MONTHS);
    await runner.query(CARRY_OVER);
    await runner.query(REMAKE);
    await runner.query(JOBS);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}

const MOMENTS = `
  -- Milliseconds since 1970 above, a running number in the lowest 21 bits.
  create function id_at(at timestamptz, n bigint) returns bigint language sql immutable parallel safe as
    $f$ select (floor(extract(epoch from at) * 1000)::bigint << 21) | (n & 2097151) $f$;
  create function time_of(id bigint) returns timestamptz language sql immutable parallel safe as
    $f$ select to_timestamp((id >> 21) / 1000.0) $f$;
`;

const TABLES = `
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

const MONTHS = `
  create function month_name(what text, month date) returns text language sql immutable as
    $f$ select what || '_' || to_char(month, 'YYYY_MM') $f$;
  create function month_from(month date) returns bigint language sql immutable as
    $f$ select id_at(date_trunc('month', month::timestamp) at time zone 'UTC', 0) $f$;

  -- Takes tables for itself without ever waiting while it holds one: readers that take them in another order would wait for each other.
  create function take_tables(names text[]) returns void language plpgsql set search_path = public, pg_temp as $f$
    begin
      for attempt in 1..400 loop
        begin
          execute 'lock table ' || (select string_agg(format('public.%I', n), ', ') from unnest(names) n) || ' in access exclusive mode nowait';
          return;
        exception when lock_not_available then
          perform pg_sleep(0.02);
        end;
      end loop;
      raise exception 'the tables are in use';
    end $f$;

  -- Makes the partitions of a month; what already lies in the rest moves there.
  create function make_month(month date) returns void language plpgsql security definer set search_path = public, pg_temp as $f$
    declare
      t record;
      part text;
      lower_end bigint := month_from(month);
      upper_end bigint := month_from((date_trunc('month', month::timestamp) + interval '1 month')::date);
    begin
      if not exists (select 1 from monthly m where to_regclass(format('months.%I', month_name(m.name, month))) is null) then
        return;
      end if;
      perform take_tables(array(select name from monthly order by name));
      for t in select * from monthly order by name loop
        part := month_name(t.name, month);
        continue when to_regclass(format('months.%I', part)) is not null;
        execute format('create table months.%I (like public.%I including defaults)', part, t.name);
        execute format('with moved as (delete from months.%I where %I >= %s and %I < %s returning *) insert into months.%I select * from moved',
          t.name || '_rest', t.key, lower_end, t.key, upper_end, part);
        execute format('alter table public.%I attach partition months.%I for values from (%s) to (%s)', t.name, part, lower_end, upper_end);
      end loop;
    end $f$;

  -- Drops a month of which so many receptions were archived. What evidence, items and alarms cite stays, with every hearing of it.
  create function drop_month(month date, archived bigint) returns void language plpgsql security definer set search_path = public, pg_temp as $f$
    declare
      t record;
      part text;
      cited bigint[];
      present bigint;
      lower_end bigint := month_from(month);
      upper_end bigint := month_from((date_trunc('month', month::timestamp) + interval '1 month')::date);
      -- Copies of a packet of the last minute before it are heard in this month.
      minute constant bigint := 60000::bigint << 21;
    begin
      select array_agg(distinct packet_id) into cited from (
        select packet_id from item where packet_id >= lower_end - minute and packet_id < upper_end
        union all select packet_id from evidence where packet_id >= lower_end - minute and packet_id < upper_end
        union all select packet_id from alarm where packet_id >= lower_end - minute and packet_id < upper_end) c;
      perform take_tables(array(select name from monthly order by name));
      select count(*) into present from reception where id >= lower_end and id < upper_end;
      if present <> archived then
        raise exception '% receptions of the month are there, and % were archived', present, archived;
      end if;
      for t in select * from monthly order by name loop
        part := month_name(t.name, month);
        continue when to_regclass(format('months.%I', part)) is null;
        execute format('alter table public.%I detach partition months.%I', t.name, part);
        if cited is not null and t.name in ('packet', 'reception') then
          execute format('insert into public.%I select * from months.%I where %I = any($1)',
            t.name, part, case t.name when 'packet' then 'id' else 'packet_id' end) using cited;
        end if;
        execute format('drop table months.%I', part);
      end loop;
    end $f$;
`;

const CARRY_OVER = `
  do $d$
    declare m date;
    begin
      for m in select distinct date_trunc('month', heard_at at time zone 'UTC')::date from reception_before
               where heard_at between now() - interval '25 months' and now() + interval '2 months' loop
        perform make_month(m);
      end loop;
    end $d$;

  create temporary table moved on commit drop as
    select id as before, id_at(first_at, id) as id from packet_before;
  create unique index on moved (before);
  analyze moved;

  insert into channel (bearer_id, import_id, port) select distinct bearer_id, import_id, port from reception_before;
  insert into packet (id, identity, source, destination, kind, addressee, summary)
    select m.id, p.identity, p.source, p.destination, p.kind, p.addressee, p.summary
    from packet_before p join moved m on m.before = p.id;
  insert into reception (id, packet_id, recorded_at, channel_id, opens, opens_here, form, raw, snr_db, rssi_dbm, error_at, error)
    select id_at(r.heard_at, r.id), m.id, r.recorded_at, c.id,
      r.packet_id is not null and row_number() over (partition by r.packet_id order by r.heard_at, r.id) = 1,
      r.packet_id is not null and row_number() over (partition by r.packet_id, r.bearer_id, r.import_id order by r.heard_at, r.id) = 1,
      r.form, r.raw, r.snr_db, r.rssi_dbm, r.error_at, r.error
    from reception_before r left join moved m on m.before = r.packet_id
    join channel c on c.bearer_id is not distinct from r.bearer_id and c.import_id is not distinct from r.import_id
      and c.port is not distinct from r.port;
  insert into trail_point (call, packet_id, latitude, longitude, course_deg, speed_knots, altitude_m, fault)
    select t.call, m.id, latitude, longitude, course_deg, speed_knots, altitude_m, fault
    from trail_point_before t join moved m on m.before = t.packet_id;
  insert into weather_reading select w.call, m.id, w.weather from weather_reading_before w join moved m on m.before = w.packet_id;
  insert into telemetry_reading
    select t.call, m.id, t.sequence, t.analog, t.bits from telemetry_reading_before t join moved m on m.before = t.packet_id;
  update item set packet_id = m.id from moved m where m.before = packet_id;
  update evidence set packet_id = m.id from moved m where m.before = packet_id;
  update alarm set packet_id = m.id from moved m where m.before = packet_id;

  drop table reception_before, packet_before, trail_point_before, weather_reading_before, telemetry_reading_before, heard_on;

  alter table packet add primary key (id);
  create index packet_identity on packet using hash (identity);
  create index packet_source on packet (source, id desc);
  create index packet_kind on packet (kind, id desc);
  create index packet_addressee on packet (addressee, id desc) where addressee is not null;
  create index packet_words on packet using gin ((source || ' ' || coalesce(addressee, '') || ' ' || summary) gin_trgm_ops);
  alter table reception add primary key (id);
  create index reception_packet on reception (packet_id, id);
  create index reception_channel on reception (channel_id, id desc);
  create index reception_error on reception (id desc) where error is not null;
  alter table trail_point add primary key (call, packet_id);
  create index trail_time on trail_point (packet_id) where fault is null;
  alter table weather_reading add primary key (call, packet_id);
  create index weather_time on weather_reading (packet_id);
  alter table telemetry_reading add primary key (call, packet_id);
  create index telemetry_time on telemetry_reading (packet_id);
`;

const REMAKE = `
  -- A rebuild under way: how far it is in the order of hearing, and what was heard since it began.
  create table remake (
    id int primary key default 1 check (id = 1),
    done_id bigint not null default -9223372036854775808,
    done int not null default 0,
    caught_up boolean not null default false,
    began_at timestamptz not null
  );
  create table remake_tail (n bigserial primary key, reception_id bigint not null);
  create index remake_tail_reception on remake_tail (reception_id);

  -- Empty twins of what is derived, in a schema that stands in front while they are filled.
  create function begin_remake() returns void language plpgsql security definer set search_path = public, pg_temp as $f$
    declare
      t text;
      p record;
    begin
      drop schema if exists remade cascade;
      create schema remade;
      foreach t in array array['station', 'telemetry_meaning', 'heard_link'] loop
        execute format('create table remade.%I (like public.%I including all) with (autovacuum_enabled = false, fillfactor = 45)', t, t);
      end loop;
      -- Without these a state is written over in its place, as often as it is written.
      for p in select c.relname from pg_index i join pg_class c on c.oid = i.indexrelid
               where i.indrelid = 'remade.station'::regclass and not i.indisprimary loop
        execute format('drop index remade.%I', p.relname);
      end loop;
      foreach t in array array['trail_point', 'weather_reading', 'telemetry_reading'] loop
        execute format('create table remade.%I (like public.%I including all) partition by range (packet_id)', t, t);
        for p in select c.relname, pg_get_expr(c.relpartbound, c.oid) as bound from pg_inherits i join pg_class c on c.oid = i.inhrelid
                 where i.inhparent = format('public.%I', t)::regclass loop
          execute format('create table remade.%I partition of remade.%I %s with (autovacuum_enabled = false)', p.relname, t, p.bound);
        end loop;
      end loop;
      grant usage on schema remade to tombolo_app;
      grant select, insert, update, delete on all tables in schema remade to tombolo_app;
    end $f$;

  -- The twins take the place of what they were made for.
  create function finish_remake() returns void language plpgsql security definer set search_path = public, pg_temp as $f$
    declare
      t text;
      p record;
    begin
      perform take_tables(array['station', 'telemetry_meaning', 'heard_link', 'trail_point', 'weather_reading', 'telemetry_reading']);
      -- Whoever asks for what has changed is given all of them.
      update remade.station set changed_at = greatest(changed_at, (select max(changed_at) from public.station) + interval '1 ms');
      foreach t in array array['station', 'telemetry_meaning', 'heard_link', 'trail_point', 'weather_reading', 'telemetry_reading'] loop
        execute format('drop table public.%I', t);
        for p in select c.relname from pg_inherits i join pg_class c on c.oid = i.inhrelid
                 where i.inhparent = format('remade.%I', t)::regclass loop
          execute format('revoke all on remade.%I from tombolo_app', p.relname);
          execute format('alter table remade.%I reset (autovacuum_enabled)', p.relname);
          execute format('alter table remade.%I set schema months', p.relname);
        end loop;
        if t in ('station', 'telemetry_meaning', 'heard_link') then
          execute format('alter table remade.%I reset (autovacuum_enabled, fillfactor)', t);
        end if;
        execute format('alter table remade.%I set schema public', t);
      end loop;
      create index station_time on station (last_at desc);
      create index station_changed on station (changed_at);
      drop schema remade;
    end $f$;

  revoke execute on function take_tables(text[]), make_month(date), drop_month(date, bigint), begin_remake(), finish_remake() from public;
`;

const JOBS = `
  -- What is done by the clock: each occurrence once, by whichever process takes it.
  create table job (
    kind text not null,
    due_at timestamptz not null,
    state text not null default 'waiting',
    owner text,
    lease_until timestamptz,
    tries int not null default 0,
    began_at timestamptz,
    ended_at timestamptz,
    outcome text,
    primary key (kind, due_at)
  );
  create index job_open on job (due_at) where state in ('waiting', 'running');
`;
