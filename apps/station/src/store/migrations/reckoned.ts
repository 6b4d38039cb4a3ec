import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Forecasts are corrected by how earlier ones came out: what was reckoned before that is kept beside what was told. */
export class Reckoned implements MigrationInterface {
  readonly name = 'Reckoned1792500000000';

  async up(runner: QueryRunner): Promise<void> {
    // Null where nothing was corrected.
    await runner.query('alter table prediction add column reckoned double precision');
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
