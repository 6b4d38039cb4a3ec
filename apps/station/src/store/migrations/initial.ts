import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The first schema. Append-only: reception, attempt, evidence, event. Rebuildable from them: packet, station. */
export class Initial implements MigrationInterface {
  readonly name = 'Initial1790000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table setting (
        id int primary key default 1 check (id = 1),
        value jsonb not null,
        changed_at timestamptz not null
      );

      create table event_head (id int primary key default 1 check (id = 1), seq bigint not null);
      insert into event_head (seq) values (0);
      create table event (
        seq bigint primary key,
        type text not null,
        at timestamptz not null,
        data jsonb not null
      );

      create table bearer (
        id text primary key,
        name text not null,
        config jsonb not null,
        enabled boolean not null default true,
        state jsonb not null,
        created_at timestamptz not null
      );

      create table import_run (
        id uuid primary key,
        name text not null,
        format text not null,
        started_at timestamptz not null,
        finished_at timestamptz,
        total_octets bigint,
        read_octets bigint not null default 0,
        understood int not null default 0,
        not_understood int not null default 0,
        packets int not null default 0,
        problem text
      );

      create table packet (
        id bigserial primary key,
        identity bytea not null,
        first_at timestamptz not null,
        source text not null,
        destination text not null,
        kind text not null,
        addressee text,
        summary text not null,
        info bytea not null
      );
      create index packet_identity on packet (identity, first_at);
      create index packet_time on packet (first_at desc, id desc);
      create index packet_source on packet (source, first_at desc);

      create table reception (
        id bigserial primary key,
        packet_id bigint references packet (id),
        bearer_id text,
        import_id uuid,
        port int,
        heard_at timestamptz not null,
        recorded_at timestamptz not null,
        form text not null,
        raw bytea not null,
        how text,
        via text[] not null default '{}',
        words text not null default '',
        line text not null default '',
        error_at int,
        error text
      );
      create index reception_packet on reception (packet_id);
      create index reception_bearer on reception (bearer_id, heard_at desc);
      create index reception_import on reception (import_id) where import_id is not null;
      create index reception_error on reception (heard_at desc, id desc) where error is not null;

      create table station (
        call text primary key,
        first_at timestamptz not null,
        last_at timestamptz not null,
        how text not null,
        via text[] not null,
        words text not null,
        -- When it was heard that way; of the copies of one packet the most direct one counts.
        how_at timestamptz not null,
        bearer_id text,
        position_at timestamptz,
        latitude double precision,
        longitude double precision,
        symbol text,
        course_deg double precision,
        speed_knots double precision,
        comment text
      );
      create index station_time on station (last_at desc);

      create sequence message_number;
      create table item (
        id uuid primary key,
        direction text not null,
        kind text not null,
        precedence text not null,
        sender text not null,
        addressee text not null,
        body text not null,
        number text,
        number_field text,
        acknowledgement_asked boolean not null,
        created_at timestamptz not null,
        filed_at timestamptz,
        refused boolean not null default false,
        answers uuid references item (id),
        packet_id bigint references packet (id)
      );
      create index item_time on item (created_at desc, id);
      create index item_number on item (number, addressee) where number is not null;
      create index item_sender on item (sender, created_at desc) where direction = 'in';

      create table leg (
        id uuid primary key,
        item_id uuid not null references item (id),
        role text not null,
        bearer_id text,
        from_call text not null,
        to_call text not null,
        path text[] not null,
        info bytea not null,
        acknowledgement_asked boolean not null,
        policy jsonb not null,
        created_at timestamptz not null,
        next_at timestamptz,
        lease_owner text,
        lease_until timestamptz
      );
      create index leg_item on leg (item_id);
      create index leg_due on leg (next_at) where next_at is not null;

      create table attempt (
        id bigserial primary key,
        leg_id uuid not null references leg (id),
        n int not null,
        intended_at timestamptz not null,
        frame bytea not null,
        identity bytea not null,
        unique (leg_id, n)
      );
      create index attempt_identity on attempt (identity, intended_at);

      create table evidence (
        id bigserial primary key,
        key text not null unique,
        item_id uuid not null references item (id),
        leg_id uuid references leg (id),
        attempt int,
        kind text not null,
        at timestamptz not null,
        bearer text,
        by_whom text,
        via text[] not null default '{}',
        raw text,
        note text,
        expect_by timestamptz,
        packet_id bigint references packet (id)
      );
      create index evidence_item on evidence (item_id);
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
