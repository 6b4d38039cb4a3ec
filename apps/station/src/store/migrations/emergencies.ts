import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Alarms of stations that call for help: somebody takes them by name, and they end when the station says otherwise. */
export class Emergencies implements MigrationInterface {
  readonly name = 'Emergencies1791300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table alarm
        add column kind text not null default 'watch' check (kind in ('watch', 'emergency')),
        add column drill boolean not null default false,
        add column taken_by text,
        add column ended_at timestamptz;
      create index alarm_open on alarm (call) where kind = 'emergency' and ended_at is null;
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
