import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Ready checks that came to their end, and causes that operators added. */
export class ReadyCheck implements MigrationInterface {
  readonly name = 'ReadyCheck1791200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table check_run (
        id uuid primary key,
        symptom text not null,
        answers jsonb not null,
        found text not null,
        fixed boolean not null,
        at timestamptz not null
      );
      create index check_run_at on check_run (at desc);
      create table own_cause (
        id uuid primary key,
        cause jsonb not null,
        created_at timestamptz not null
      );
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
