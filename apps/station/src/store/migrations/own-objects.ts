import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Things that this station puts on the map of all; how a modem shares the channel, as modems do by themselves. */
export class OwnObjects implements MigrationInterface {
  readonly name = 'OwnObjects1791400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table own_object (
        id uuid primary key,
        thing jsonb not null,
        goes_out jsonb not null,
        live boolean not null,
        taken_by text,
        changed_at timestamptz not null,
        revision integer not null
      );
      create unique index own_object_name on own_object (upper(thing->>'name')) where live;
      update bearer set config = '{"persistencePercent": 25, "slotMs": 100}'::jsonb || config
        where config->>'kind' in ('kiss-tcp', 'kiss-serial');
      create index leg_own_object on leg ((detail->>'object')) where detail ? 'object';
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
