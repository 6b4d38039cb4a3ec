import type { MigrationInterface, QueryRunner } from 'typeorm';

/** When links were heard, and missed, by the hour; what was predicted of what is sent. */
export class Planning implements MigrationInterface {
  readonly name = 'Planning1792300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table heard_link add column hours jsonb not null default '{}';
      alter table if exists remade.heard_link add column hours jsonb not null default '{}';

      -- Counts of two days, from the newest hour back: the same in whatever order they come.
      create function merged_hours(a jsonb, b jsonb) returns jsonb language sql immutable parallel safe as $f$
        select coalesce(jsonb_object_agg(hour, counts), '{}') from (
          select hour, jsonb_build_array(sum((seen->>0)::int), sum((seen->>1)::int), sum((seen->>2)::int)) as counts,
                 max(hour::int) over () as newest
          from (select key as hour, value as seen from jsonb_each(a) union all select key, value from jsonb_each(b)) each
          group by hour
        ) summed where hour::int > newest - 48
      $f$;

      -- Hours are counted from what was received.
      insert into rebuild_wanted select now() where exists (select 1 from heard_link);

      create table prediction (
        leg_id uuid primary key references leg (id),
        at timestamptz not null,
        bearer_kind text not null,
        -- Chance that it is proved to have arrived, by the tries that it has and its deadline.
        proven double precision not null,
        low double precision not null,
        high double precision not null,
        -- Whether it rests on what was heard, or is a guess from the map.
        basis text not null,
        rests jsonb not null
      );
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
