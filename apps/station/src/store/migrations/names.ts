import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was agreed with people, and names of stations by their task. */
export class Names implements MigrationInterface {
  readonly name = 'Names1792200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table person add column agreement text not null default '';
      alter table person alter column agreement drop default;
      create table tactical_name (
        id uuid primary key,
        name text not null,
        call text not null,
        since timestamptz not null,
        until timestamptz
      );
      create unique index tactical_name_holds on tactical_name (lower(name)) where until is null;
      create index tactical_name_since on tactical_name (since);
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
