import { beaconNow } from '../beacon';
import { positionNow } from '../position-source';
import { waypointsNow } from '../waypoints';
import { route } from './route';

/** Where the station is, and how it tells that by itself. */
export const positionRoutes = {
  positionNow: route({
    method: 'get',
    path: '/position',
    summary: 'Where the station is now, and what its receiver says',
    answer: positionNow,
  }),
  waypointsNow: route({
    method: 'get',
    path: '/waypoints',
    summary: 'Whether a navigation receiver gets what is heard, and why not',
    answer: waypointsNow,
  }),
  beaconNow: route({
    method: 'get',
    path: '/beacon',
    summary: 'Whether our position goes out by itself, and why not',
    answer: beaconNow,
  }),
};
