import { byUnit, trackerChange, trackersNow } from '../trackers';
import { route } from './route';

/** Trackers from elsewhere, by a web feed. */
export const trackerRoutes = {
  trackers: route({
    method: 'get',
    path: '/trackers',
    summary: 'Units of the feed, with where they were last',
    answer: trackersNow,
  }),
  changeTracker: route({
    method: 'put',
    path: '/trackers/:unit',
    summary: 'Name a unit, and put it on the air or take it off',
    params: byUnit,
    body: trackerChange,
    answer: trackersNow,
  }),
};
