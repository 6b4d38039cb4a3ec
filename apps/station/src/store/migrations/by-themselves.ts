import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Transmissions that belong to no item: what the station says of itself. */
export class ByThemselves implements MigrationInterface {
  readonly name = 'ByThemselves1790700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table leg alter column item_id drop not null;
      alter table evidence alter column item_id drop not null;
      alter table evidence add constraint evidence_of_something check (item_id is not null or leg_id is not null);
      create index leg_by_itself on leg (created_at desc, id) where item_id is null;
      create index evidence_by_itself on evidence (leg_id) where item_id is null;
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
