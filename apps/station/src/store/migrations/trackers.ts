import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Trackers that a web feed tells of. */
export class Trackers implements MigrationInterface {
  readonly name = 'Trackers1791500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table tracker (
        unit text primary key,
        shown jsonb not null,
        report jsonb not null,
        object_id uuid not null,
        changed_at timestamptz not null
      );
      create table tracker_feed (
        url text primary key,
        asked_at timestamptz not null,
        fault text
      );
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
