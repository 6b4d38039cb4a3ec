import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Nodes of a mesh by tag and a 40-bit number in Crockford's base 32; what a mesh hears by the common door; the hour's air time by sub-band. */
export class MeshFrames implements MigrationInterface {
  readonly name = 'MeshFrames1790500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create function crockford(hex text) returns text language sql immutable as $f$
        select string_agg(
          substr('0123456789ABCDEFGHJKMNPQRSTVWXYZ',
            ((('x' || lpad(hex, 16, '0'))::bit(64)::bigint >> (5 * (7 - i))) & 31)::int + 1, 1)
            || case when i = 3 then '-' else '' end, '' order by i)
        from generate_series(0, 7) as i
      $f$;

      alter table mesh_node rename column short_name to tag;
      alter table mesh_node rename column long_name to name;
      alter table mesh_node rename column router to carrier;
      update mesh_node set
        tag = case when tag = node or tag !~ '[A-Za-z0-9]' then crockford(node)
                   else left(upper(regexp_replace(tag, '[^A-Za-z0-9]', '', 'g')), 6) end;
      update mesh_node set node = crockford(node);

      update leg set detail = jsonb_set(detail, '{node}', to_jsonb(crockford(detail->>'node')))
        where detail->>'node' ~ '^[0-9a-f]{8}$';
      update item set trace = array(
          select case when one ~ '^[0-9a-f]{8}$' then crockford(one) else one end
          from unnest(trace) with ordinality as t(one, place) order by place)
        where external_id like 'mesh%';
      update item set sender = crockford(sender) where external_id like 'mesh%' and sender ~ '^[0-9a-f]{8}$';

      -- Frequency and modem setting were not known to earlier versions: nothing is sent until somebody sets them.
      update bearer set config = (config - 'shortName' - 'longName') || jsonb_build_object(
          'node', crockford(config->>'node'),
          'tag', coalesce(nullif(left(upper(regexp_replace(config->>'shortName', '[^A-Za-z0-9]', '', 'g')), 6), ''), 'NODE'),
          'name', config->>'longName', 'carrier', false, 'announceMin', 20, 'radio', null)
        where config->>'kind' = 'mesh-mqtt' and config->>'node' ~ '^[0-9a-f]{8}$';
      drop function crockford;

      -- How well it was received, and over how many hops, where the bearer tells.
      alter table reception add column snr_db real, add column rssi_dbm real, add column hops int;

      create table duty_air (
        bearer_id text not null,
        sub_band text not null,
        packet text not null,
        at timestamptz not null,
        ms int not null,
        cause text not null,
        primary key (bearer_id, packet, cause)
      );
      create index duty_air_at on duty_air (bearer_id, sub_band, at);
    `);
  }

  async down(): Promise<void> {
    throw new Error('migrations go forward only');
  }
}
