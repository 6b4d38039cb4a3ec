import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * The whole picture of what is heard: stations and objects with trails, weather, telemetry and links. All of it but notes, watches,
 * alarms and maps is derived from receptions and can be made anew from them (`rebuild_wanted`).
 */
export class WholePicture implements MigrationInterface {
  readonly name = 'WholePicture1790200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Objects and items stand beside stations, under ';' or ')' and their name.
      drop table station;
      create table station (
        call text primary key,
        -- As text: it is only read and written whole.
        state json not null,
        last_at timestamptz not null,
        changed_at timestamptz not null
      );
      create index station_time on station (last_at desc);
      create index station_changed on station (changed_at);

      create table station_note (
        call text primary key,
        note text not null default '',
        muted boolean not null default false
      );

      create table trail_point (
        call text not null,
        at timestamptz not null,
        packet_id bigint not null,
        latitude double precision not null,
        longitude double precision not null,
        course_deg double precision,
        speed_knots double precision,
        altitude_m double precision,
        -- Why it is kept off the trail.
        fault text,
        primary key (call, at, packet_id)
      );
      create index trail_time on trail_point (at) where fault is null;

      create table weather_reading (
        call text not null,
        at timestamptz not null,
        packet_id bigint not null,
        weather jsonb not null,
        primary key (call, at, packet_id)
      );

      create table telemetry_reading (
        call text not null,
        at timestamptz not null,
        packet_id bigint not null,
        sequence text not null,
        analog double precision[] not null,
        bits text,
        primary key (call, at, packet_id)
      );
      create table telemetry_meaning (call text primary key, meaning jsonb not null, changed_at timestamptz not null);

      create table heard_link (
        from_call text not null,
        by_call text not null,
        count int not null,
        -- Of these, how often the sender's own transmission was heard.
        first_count int not null,
        first_at timestamptz not null,
        last_at timestamptz not null,
        best_km double precision,
        best_at timestamptz,
        primary key (from_call, by_call)
      );

      -- Which packets a link or a recording brought, in the order of the log.
      create table heard_on (
        origin text not null,
        first_at timestamptz not null,
        packet_id bigint not null,
        primary key (origin, first_at, packet_id)
      );
      insert into heard_on
        select distinct o.origin, p.first_at, p.id from reception r join packet p on p.id = r.packet_id
        cross join lateral (values (r.bearer_id), (r.import_id::text)) as o (origin) where o.origin is not null;

      create extension if not exists pg_trgm;
      create index packet_addressee on packet (addressee, first_at desc, id desc) where addressee is not null;
      create index packet_kind on packet (kind, first_at desc, id desc);
      create index packet_source_page on packet (source, first_at desc, id desc);
      drop index packet_source;
      create index packet_words on packet using gin ((source || ' ' || coalesce(addressee, '') || ' ' || summary) gin_trgm_ops);

      alter table import_run add column kinds jsonb not null default '{}';
      alter table import_run add column reasons jsonb not null default '{}';

      create table watch (
        id uuid primary key,
        call text not null,
        quantity text not null,
        threshold jsonb not null,
        enabled boolean not null,
        raised boolean not null default false,
        created_at timestamptz not null
      );
      create index watch_call on watch (call);
      create table alarm (
        id bigserial primary key,
        watch_id uuid,
        call text not null,
        words text not null,
        at timestamptz not null,
        packet_id bigint,
        seen_at timestamptz
      );
      create index alarm_unseen on alarm (at desc) where seen_at is null;

      create table map_layer (
        id uuid primary key,
        name text not null,
        kind text not null,
        octets bigint not null default 0,
        created_at timestamptz not null,
        complete boolean not null default false
      );
      create table map_chunk (
        map_id uuid not null references map_layer (id) on delete cascade,
        n int not null,
        content bytea not null,
        primary key (map_id, n)
      );

      create table rebuild_wanted (since timestamptz not null);
      insert into rebuild_wanted select now() where exists (select 1 from reception);
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
