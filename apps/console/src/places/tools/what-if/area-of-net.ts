import type { NetView } from '@tombolo/contract';
import { bearingBetween, type Position } from '@tombolo/core';
import { areaOf, MOST_NET_KM, type Area } from '../reach/area';
import type { Plan } from './plan';

/** Finer than this the ground of a whole net is not asked for. */
const STEP_KM = 0.15;

/** Of which ground one has to know: under the net and under what is thought of, around us. Null where nobody has told a place. */
export function areaOfNet(net: NetView, here: Position | null, changes: Plan): Area | null {
  const places = [
    ...net.stations.flatMap(({ place }) => (place ? [place] : [])),
    ...changes.flatMap((one) => ('place' in one ? [one.place] : [])),
  ];
  const centre = here ?? places[0];
  return centre
    ? areaOf(
        places.filter((place) => bearingBetween(centre, place).distanceKm <= MOST_NET_KM),
        STEP_KM,
      )
    : null;
}
