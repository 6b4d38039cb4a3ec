import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the station consists of, and what was ticked on its set-up sheets. */
export class Equipment implements MigrationInterface {
  readonly name = 'Equipment1791100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table equipment (
        id uuid primary key,
        piece jsonb not null check (piece->>'kind' in ('radio', 'modem', 'antenna', 'node', 'receiver', 'cell')),
        created_at timestamptz not null
      );
      -- Nothing is taken back: a tick that no longer holds is followed by another row.
      create table sheet_tick (
        n bigserial primary key,
        id uuid not null unique,
        piece_id uuid not null references equipment on delete cascade,
        holder text not null,
        line text not null,
        value text not null,
        done boolean not null,
        by_whom text not null,
        at timestamptz not null
      );
      create index sheet_tick_of on sheet_tick (piece_id, n);
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
