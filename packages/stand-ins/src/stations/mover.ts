import { bearingBetween, pointAt, type Position } from '@tombolo/core';
import type { ChannelStation } from '../radio/channel';
import type { World } from '../sim/world';

/** Moves a station to and fro along a track; tells course and speed. */
export function runMover(
  world: World,
  station: ChannelStation,
  track: readonly Position[],
  speedKnots: number,
): { courseDeg: number; speedKnots: number } {
  const motion = { courseDeg: 0, speedKnots };
  let target = 1;
  let direction = 1;
  const STEP_S = 20;
  const step = () => {
    const goal = track[target]!;
    const { distanceKm, azimuthDeg } = bearingBetween(station.position, goal);
    const stepKm = (speedKnots * 1.852 * STEP_S) / 3600;
    motion.courseDeg = azimuthDeg;
    if (distanceKm <= stepKm) {
      station.position = goal;
      if (target + direction < 0 || target + direction >= track.length) direction = -direction;
      target += direction;
    } else station.position = pointAt(station.position, azimuthDeg, stepKm);
    world.after(STEP_S * 1000, step);
  };
  world.after(0, step);
  return motion;
}
