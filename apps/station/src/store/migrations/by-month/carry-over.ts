/** What was kept before, into the months. */
export const CARRY_OVER = `
  do $d$
    declare m date;
    begin
      for m in select distinct date_trunc('month', heard_at at time zone 'UTC')::date from reception_before
               where heard_at between now() - interval '25 months' and now() + interval '2 months' loop
        perform make_month(m);
      end loop;
    end $d$;

  create temporary table moved on commit drop as
    select id as before, id_at(first_at, id) as id from packet_before;
  create unique index on moved (before);
  analyze moved;

  insert into channel (bearer_id, import_id, port) select distinct bearer_id, import_id, port from reception_before;
  insert into packet (id, identity, source, destination, kind, addressee, summary)
    select m.id, p.identity, p.source, p.destination, p.kind, p.addressee, p.summary
    from packet_before p join moved m on m.before = p.id;
  insert into reception (id, packet_id, recorded_at, channel_id, opens, opens_here, form, raw, snr_db, rssi_dbm, error_at, error)
    select id_at(r.heard_at, r.id), m.id, r.recorded_at, c.id,
      r.packet_id is not null and row_number() over (partition by r.packet_id order by r.heard_at, r.id) = 1,
      r.packet_id is not null and row_number() over (partition by r.packet_id, r.bearer_id, r.import_id order by r.heard_at, r.id) = 1,
      r.form, r.raw, r.snr_db, r.rssi_dbm, r.error_at, r.error
    from reception_before r left join moved m on m.before = r.packet_id
    join channel c on c.bearer_id is not distinct from r.bearer_id and c.import_id is not distinct from r.import_id
      and c.port is not distinct from r.port;
  insert into trail_point (call, packet_id, latitude, longitude, course_deg, speed_knots, altitude_m, fault)
    select t.call, m.id, latitude, longitude, course_deg, speed_knots, altitude_m, fault
    from trail_point_before t join moved m on m.before = t.packet_id;
  insert into weather_reading select w.call, m.id, w.weather from weather_reading_before w join moved m on m.before = w.packet_id;
  insert into telemetry_reading
    select t.call, m.id, t.sequence, t.analog, t.bits from telemetry_reading_before t join moved m on m.before = t.packet_id;
  update item set packet_id = m.id from moved m where m.before = packet_id;
  update evidence set packet_id = m.id from moved m where m.before = packet_id;
  update alarm set packet_id = m.id from moved m where m.before = packet_id;

  drop table reception_before, packet_before, trail_point_before, weather_reading_before, telemetry_reading_before, heard_on;

  alter table packet add primary key (id);
  create index packet_identity on packet using hash (identity);
  create index packet_source on packet (source, id desc);
  create index packet_kind on packet (kind, id desc);
  create index packet_addressee on packet (addressee, id desc) where addressee is not null;
  create index packet_words on packet using gin ((source || ' ' || coalesce(addressee, '') || ' ' || summary) gin_trgm_ops);
  alter table reception add primary key (id);
  create index reception_packet on reception (packet_id, id);
  create index reception_channel on reception (channel_id, id desc);
  create index reception_error on reception (id desc) where error is not null;
  alter table trail_point add primary key (call, packet_id);
  create index trail_time on trail_point (packet_id) where fault is null;
  alter table weather_reading add primary key (call, packet_id);
  create index weather_time on weather_reading (packet_id);
  alter table telemetry_reading add primary key (call, packet_id);
  create index telemetry_time on telemetry_reading (packet_id);
`;
