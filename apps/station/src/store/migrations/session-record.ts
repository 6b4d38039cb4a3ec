import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was said in a session is its record. */
export class SessionRecord implements MigrationInterface {
  readonly name = 'SessionRecord1790800000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table session_run rename column transcript to record');
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
