import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Bulletins of ours, how often each that came was heard, and who asked for parts of texts again. */
export class Bulletins implements MigrationInterface {
  readonly name = 'Bulletins1792100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table own_bulletin (
        id uuid primary key,
        bulletin jsonb not null,
        goes_out jsonb not null,
        until timestamptz not null,
        ended_at timestamptz,
        changed_at timestamptz not null,
        revision integer not null
      );
      create index leg_own_bulletin on leg ((detail->>'ownBulletin')) where detail ? 'ownBulletin';
      create table bulletin_heard (
        item_id uuid primary key references item (id) on delete cascade,
        last_at timestamptz not null,
        times integer not null
      );
      create index evidence_asked_again on evidence (at) where kind = 'asked again';
      create index item_bulletin on item (created_at) where kind = 'bulletin' and direction = 'in';
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
