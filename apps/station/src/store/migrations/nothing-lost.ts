import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Air time that is accounted for, what waits to be released, what overflowed, and how far a spool of heard frames was stored. */
export class NothingLost implements MigrationInterface {
  readonly name = 'NothingLost1790300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- What was sent without anybody's pressing a key: acknowledgements, rejects, answers, refusals of connections.
      create table air_time (
        id bigserial primary key,
        -- Modem port and frequency.
        channel text not null,
        at timestamptz not null,
        ms int not null,
        what text not null,
        asked_by text not null
      );
      create index air_time_channel on air_time (channel, at);

      -- Why it does not go out although it is due: a restored copy must not send again what was sent before.
      alter table leg add column held text;
      create index leg_waiting on leg (bearer_id, role) where next_at is not null;
      create index leg_item_role on leg (item_id, role);
      create index attempt_open on attempt (intended_at);

      -- Texts of one sender that were not taken for want of room: one row in Traffic stands for all of them.
      create table overflow (
        kind text not null,
        sender text not null,
        addressee text not null,
        item_id uuid not null references item (id),
        count int not null,
        first_at timestamptz not null,
        last_at timestamptz not null,
        primary key (kind, sender, addressee)
      );

      -- How far a file of frames heard while the database was away has been stored; in the same transaction as these.
      create table spool_mark (
        spool uuid primary key,
        done bigint not null,
        at timestamptz not null
      );

      alter table import_run add column removed_at timestamptz;
      alter table import_run add column touched_at timestamptz;

      -- By whom and when something was done that others should be able to ask about.
      create table audit (
        id bigserial primary key,
        at timestamptz not null,
        by_whom text not null,
        what text not null,
        detail text
      );

      create table backup_run (
        id uuid primary key,
        started_at timestamptz not null,
        finished_at timestamptz,
        octets bigint,
        verified boolean not null default false,
        problem text
      );

      -- As what the sender was taken when it came: somebody known, a stranger, a stranger who claims urgency.
      alter table item add column standing text;
      create index item_written_to on item (split_part(addressee, '-', 1)) where direction = 'out';
      create index item_unfiled on item (kind, sender) where direction = 'in' and filed_at is null;
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
