import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A board says how often, and when, it forwards to others; of those that are set up already nobody noted it. */
export class Forwarding implements MigrationInterface {
  readonly name = 'Forwarding1792600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `update bearer set config = '{"forwardsEveryMin": null, "forwardsAt": null}' || config where config ->> 'kind' = 'board'`,
    );
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
