import type { MigrationInterface, QueryRunner } from 'typeorm';
import { CARRY_OVER } from './by-month/carry-over';
import { MONTHS } from './by-month/months';
import { TABLES } from './by-month/tables';

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
