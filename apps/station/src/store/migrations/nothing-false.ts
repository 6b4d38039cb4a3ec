import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Roads with the hops that did not sign; links that a path proves apart from those it makes likely; waits longer than digipeaters drop repeats. */
export class NothingFalse implements MigrationInterface {
  readonly name = 'NothingFalse1790400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table evidence add column road jsonb;
      alter table heard_link add column certain_count int not null default 0;
      -- The default of earlier versions fell into the time in which digipeaters drop repeats.
      update setting set value = jsonb_set(value, '{retry,firstS}', '32')
        where (value->'retry'->>'firstS')::float8 = 20;
      -- Paths are read more carefully now: what is derived from them is made anew.
      insert into rebuild_wanted select now() where exists (select 1 from reception);
      -- The copies of a packet in the order in which they were heard.
      create index reception_packet_at on reception (packet_id, heard_at);
      drop index reception_packet;
      create index leg_created on leg (created_at);
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
