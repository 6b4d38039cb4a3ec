import { ownStation, type MeasuredView } from '@tombolo/contract';
import { antennaFactor, bearingBetween } from '@tombolo/core';
import type { PlanningContext } from './context';
import { placesOf } from './hops';
import { hoursOf, linksOfTwoDays } from './link-rows';

/** More are not told of: those that were heard last. */
const MOST_STATIONS = 200;

/** Who was heard here straight in two days, and missed, against what the map says of it. What moves is left out: its place was another. */
export async function measuredReach({
  queries,
  settings,
  ownPosition,
  mapReach,
  nowMs,
}: PlanningContext): Promise<MeasuredView> {
  const own = ownStation(settings);
  if (own === null || ownPosition === null) return { placed: ownPosition !== null, stations: [], factor: null };
  const rows = (await linksOfTwoDays(queries, nowMs)).filter(({ by_call }) => by_call === own).slice(0, MOST_STATIONS);
  const places = await placesOf(
    queries,
    rows.map(({ from_call }) => from_call),
  );
  const counted = rows.flatMap((row) => {
    const place = places.get(row.from_call);
    const [heard, missed] = hoursOf(row).reduce(([all, none], hour) => [all + hour.heard, none + hour.missed], [
      0, 0,
    ] as [number, number]);
    // A station on our own spot, such as our own second set, tells of no way through the air.
    return !place ||
      place.moves ||
      heard + missed === 0 ||
      bearingBetween(place.position, ownPosition).distanceKm < 0.05
      ? []
      : [{ call: row.from_call, position: place.position, heard, missed }];
  });
  const margins = await mapReach(
    counted.map(({ call, position }) => ({ key: call, from: position, to: ownPosition, ours: 'to' as const })),
  );
  const stations = counted
    .flatMap(({ call, position, heard, missed }) => {
      const margin = margins.get(call);
      const { distanceKm } = bearingBetween(position, ownPosition);
      return margin ? [{ call, distanceKm, marginDb: margin.marginDb, heard, missed }] : [];
    })
    .sort((a, b) => a.distanceKm - b.distanceKm);
  return { placed: true, stations, factor: antennaFactor(stations) };
}
