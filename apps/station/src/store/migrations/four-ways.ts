import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Boards, mail and mesh beside radio text, and handing on between them. Custody is append-only, as evidence is. */
export class FourWays implements MigrationInterface {
  readonly name = 'FourWays1790100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table item add column subject text;
      alter table item add column cc text[] not null default '{}';
      -- By which a second copy over another way is recognised: key of a board, identifier of a mail, number in a mesh.
      alter table item add column external_id text unique;
      alter table item add column trace text[] not null default '{}';
      alter table item add column undecipherable boolean not null default false;

      alter table leg add column detail jsonb;

      create table custody (
        id bigserial primary key,
        key text not null unique,
        item_id uuid not null references item (id),
        what text not null,
        other text not null,
        at timestamptz not null,
        by_whom text not null,
        bearer text,
        note text
      );
      create index custody_item on custody (item_id);

      create table attachment (
        id uuid primary key,
        item_id uuid not null references item (id),
        name text not null,
        type text not null,
        content bytea not null
      );
      create index attachment_item on attachment (item_id);

      create table offer (
        bearer_id text not null,
        key text not null,
        number text not null,
        kind text not null,
        octets int not null,
        sender text not null,
        addressee text not null,
        at text not null,
        subject text not null,
        seen_at timestamptz not null,
        gone boolean not null default false,
        item_id uuid references item (id),
        primary key (bearer_id, key)
      );

      create table session_run (
        id uuid primary key,
        bearer_id text not null,
        kind text not null,
        started_at timestamptz not null,
        ended_at timestamptz,
        stage text not null,
        done_octets int not null default 0,
        total_octets int not null default 0,
        problem text,
        transcript text not null default ''
      );
      create index session_time on session_run (bearer_id, started_at desc);

      create table mesh_node (
        bearer_id text not null,
        node text not null,
        short_name text not null,
        long_name text not null,
        router boolean not null default false,
        latitude double precision,
        longitude double precision,
        battery_percent int,
        snr_db double precision,
        hops int,
        last_at timestamptz not null,
        primary key (bearer_id, node)
      );

      create table standing_rule (
        id uuid primary key,
        rule jsonb not null,
        enabled boolean not null default false,
        created_at timestamptz not null
      );
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
