import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What was one row of settings falls apart: the operator, the station, the modems (each with its frequency, delay and path), and the people,
 * each with all addresses. In which unit distances are shown is a preference of each device.
 */
export class SettingsParted implements MigrationInterface {
  readonly name = 'SettingsParted1790900000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table person (
        id uuid primary key,
        name text not null,
        licensed boolean not null,
        created_at timestamptz not null
      );
      create unique index person_name on person (lower(name));
      create table person_address (
        person_id uuid not null references person on delete cascade,
        n int not null,
        sort text not null,
        address text not null,
        primary key (person_id, n)
      );
      create index person_address_by_address on person_address (lower(address));

      -- Of two under one name the first stands: only it was ever found by it.
      insert into person (id, name, licensed, created_at)
      select distinct on (lower(p ->> 'name')) gen_random_uuid(), p ->> 'name', (p ->> 'licensed')::boolean, s.changed_at + n * interval '1 ms'
      from setting s, jsonb_array_elements(coalesce(s.value -> 'people', '[]')) with ordinality as list (p, n)
      order by lower(p ->> 'name'), n;
      insert into person_address (person_id, n, sort, address)
      select person.id, a.n, a.sort, p ->> a.field
      from setting s, jsonb_array_elements(coalesce(s.value -> 'people', '[]')) p
      join person on person.name = p ->> 'name',
      (values (0, 'phone', 'phone'), (1, 'mail', 'mail'), (2, 'node', 'meshNode')) as a (n, sort, field)
      where p ->> a.field is not null
      on conflict do nothing;

      update bearer b set config = b.config || jsonb_build_object(
        'frequencyMHz', coalesce(nullif(b.config -> 'frequencyMHz', 'null'), s.value -> 'frequencyMHz', 'null'),
        'txDelayMs', coalesce(s.value -> 'txDelayMs', '300'),
        'path', coalesce(s.value -> 'path', '["WIDE1-1", "WIDE2-1"]'))
      from (select (select value from setting where id = 1) as value) s
      where b.config ->> 'kind' = 'kiss-tcp';

      alter table setting add column part text;
      update setting set part = 'operator';
      alter table setting drop column id;
      insert into setting (part, value, changed_at) select 'station', value, changed_at from setting;
      alter table setting add primary key (part);
      update setting set value = (
        select coalesce(jsonb_object_agg(key, v), '{}') from jsonb_each(value) as each (key, v)
        where (part = 'operator') = (key in ('call', 'ssid', 'licenceConfirmed'))
          and key not in ('people', 'distanceUnit', 'frequencyMHz', 'txDelayMs', 'path'));
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
