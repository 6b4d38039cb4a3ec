import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Hours of a link are added key by key: mostly the one hour that is there already.
 * Aggregating all of them anew took five times as long for every link of every batch.
 */
export class HoursByKey implements MigrationInterface {
  readonly name = 'HoursByKey1792400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      -- Counts of two days, from the newest hour back: the same in whatever order they come.
      create or replace function merged_hours(a jsonb, b jsonb) returns jsonb
      language plpgsql immutable parallel safe as $f$
      declare
        hour text;
        seen jsonb;
        before jsonb;
        newer boolean := false;
      begin
        for hour, seen in select * from jsonb_each(b) loop
          before := a -> hour;
          if before is null then
            newer := true;
          else
            seen := jsonb_build_array((before->>0)::int + (seen->>0)::int, (before->>1)::int + (seen->>1)::int,
                                      (before->>2)::int + (seen->>2)::int);
          end if;
          a := jsonb_set(a, array[hour], seen);
        end loop;
        -- No hour came in that was not there: none is older than two days that was not before.
        if not newer then return a; end if;
        for hour in
          select key from (select key, max(key::int) over () as newest from jsonb_object_keys(a) as key) as each
          where key::int <= newest - 48
        loop
          a := a - hour;
        end loop;
        return a;
      end $f$;
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
