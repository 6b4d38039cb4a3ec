/** Functions of the owner that make months and drop them. */
export const MONTHS = `
  create function month_name(what text, month date) returns text language sql immutable as
    $f$ select what || '_' || to_char(month, 'YYYY_MM') $f$;
  create function month_from(month date) returns bigint language sql immutable as
    $f$ select id_at(date_trunc('month', month::timestamp) at time zone 'UTC', 0) $f$;

  -- Takes tables for itself without ever waiting while it holds one: readers that take them in another order would wait for each other.
  create function take_tables(names text[]) returns void language plpgsql set search_path = public, pg_temp as $f$
    begin
      for attempt in 1..400 loop
        begin
          execute 'lock table ' || (select string_agg(format('public.%I', n), ', ') from unnest(names) n) || ' in access exclusive mode nowait';
          return;
        exception when lock_not_available then
          perform pg_sleep(0.02);
        end;
      end loop;
      raise exception 'the tables are in use';
    end $f$;

  -- Makes the partitions of a month; what already lies in the rest moves there.
  create function make_month(month date) returns void language plpgsql security definer set search_path = public, pg_temp as $f$
    declare
      t record;
      part text;
      lower_end bigint := month_from(month);
      upper_end bigint := month_from((date_trunc('month', month::timestamp) + interval '1 month')::date);
    begin
      if not exists (select 1 from monthly m where to_regclass(format('months.%I', month_name(m.name, month))) is null) then
        return;
      end if;
      perform take_tables(array(select name from monthly order by name));
      for t in select * from monthly order by name loop
        part := month_name(t.name, month);
        continue when to_regclass(format('months.%I', part)) is not null;
        execute format('create table months.%I (like public.%I including defaults)', part, t.name);
        execute format('with moved as (delete from months.%I where %I >= %s and %I < %s returning *) insert into months.%I select * from moved',
          t.name || '_rest', t.key, lower_end, t.key, upper_end, part);
        execute format('alter table public.%I attach partition months.%I for values from (%s) to (%s)', t.name, part, lower_end, upper_end);
      end loop;
    end $f$;

  -- Drops a month of which so many receptions were archived. What evidence, items and alarms cite stays, with every hearing of it.
  create function drop_month(month date, archived bigint) returns void language plpgsql security definer set search_path = public, pg_temp as $f$
    declare
      t record;
      part text;
      cited bigint[];
      present bigint;
      lower_end bigint := month_from(month);
      upper_end bigint := month_from((date_trunc('month', month::timestamp) + interval '1 month')::date);
      -- Copies of a packet of the last minute before it are heard in this month.
      minute constant bigint := 60000::bigint << 21;
    begin
      select array_agg(distinct packet_id) into cited from (
        select packet_id from item where packet_id >= lower_end - minute and packet_id < upper_end
        union all select packet_id from evidence where packet_id >= lower_end - minute and packet_id < upper_end
        union all select packet_id from alarm where packet_id >= lower_end - minute and packet_id < upper_end) c;
      perform take_tables(array(select name from monthly order by name));
      select count(*) into present from reception where id >= lower_end and id < upper_end;
      if present <> archived then
        raise exception '% receptions of the month are there, and % were archived', present, archived;
      end if;
      for t in select * from monthly order by name loop
        part := month_name(t.name, month);
        continue when to_regclass(format('months.%I', part)) is null;
        execute format('alter table public.%I detach partition months.%I', t.name, part);
        if cited is not null and t.name in ('packet', 'reception') then
          execute format('insert into public.%I select * from months.%I where %I = any($1)',
            t.name, part, case t.name when 'packet' then 'id' else 'packet_id' end) using cited;
        end if;
        execute format('drop table months.%I', part);
      end loop;
    end $f$;
`;
