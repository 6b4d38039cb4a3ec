import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who takes something to a person by hand, and about how long that takes. */
export class BroughtBy implements MigrationInterface {
  readonly name = 'BroughtBy1792700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table person_brought_by (
        person_id uuid not null references person on delete cascade,
        n int not null,
        -- Not a reference: somebody who is taken off the list and put back still brings it.
        by_id uuid not null,
        about_min int not null,
        primary key (person_id, n)
      );
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
