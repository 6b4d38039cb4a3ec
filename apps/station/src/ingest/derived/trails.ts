import { inBlocks, numberArray, type Queries } from '../../store/database';
import type { TrailRow } from './stations';

/** Appends points to trails; those kept off it carry the reason. */
export async function appendTrails(queries: Queries, points: readonly TrailRow[]): Promise<void> {
  await inBlocks(points, (block) => appendBlock(queries, block));
}

async function appendBlock(queries: Queries, points: readonly TrailRow[]): Promise<void> {
  const of = <T>(pick: (point: TrailRow) => T) => points.map(pick);
  await queries.query(
    `insert into trail_point (call, packet_id, latitude, longitude, course_deg, speed_knots, altitude_m, fault)
     select * from unnest($1::text[], $2::bigint[], $3::float8[], $4::float8[], $5::float8[], $6::float8[], $7::float8[], $8::text[])
     on conflict do nothing`,
    [
      of((p) => p.call),
      numberArray(of((p) => p.packetId)),
      numberArray(of(({ point }) => point.latitude)),
      numberArray(of(({ point }) => point.longitude)),
      numberArray(of(({ point }) => point.courseDeg)),
      numberArray(of(({ point }) => point.speedKnots)),
      numberArray(of(({ point }) => point.altitudeM)),
      of(({ point }) => point.fault),
    ],
  );
}
