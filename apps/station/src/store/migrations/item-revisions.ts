import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Items count their states: by that a console knows which of two is the later one. */
export class ItemRevisions implements MigrationInterface {
  readonly name = 'ItemRevisions1791000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('alter table item add column revision bigint not null default 0');
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
