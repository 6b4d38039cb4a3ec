import { groundQuery, groundView, profileQuery, profileView } from '../reach';
import { route } from './route';

/** How far the radio reaches, reckoned. */
export const reachRoutes = {
  profile: route({
    method: 'get',
    path: '/reach/profile',
    summary: 'The ground between two places, by the elevation tiles of the station',
    query: profileQuery,
    answer: profileView,
  }),
  ground: route({
    method: 'get',
    path: '/reach/ground',
    summary: 'The ground of an area, by the elevation tiles of the station',
    query: groundQuery,
    answer: groundView,
  }),
};
