import { profileQuery, profileView } from '../reach';
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
};
