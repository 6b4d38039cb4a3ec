import { z } from 'zod';
import { heardBulletin, ownBulletin, ownBulletinChange, ownBulletinEnd } from '../bulletins';
import { byUuid } from '../parameters';
import { route } from './route';

/** Bulletins and announcements: heard, and ours. */
export const bulletinRoutes = {
  heardBulletins: route({
    method: 'get',
    path: '/bulletins',
    summary: 'Bulletins that were heard in the last days, in the order in which they are read',
    answer: z.array(heardBulletin),
  }),
  ownBulletins: route({
    method: 'get',
    path: '/own-bulletins',
    summary: 'Bulletins of ours, with those that are over since yesterday',
    answer: z.array(ownBulletin),
  }),
  keepOwnBulletin: route({
    method: 'put',
    path: '/own-bulletins/:id',
    summary: 'Tell everybody something, again and again until it is over, or change it',
    params: byUuid,
    body: ownBulletinChange,
    answer: ownBulletin,
  }),
  endOwnBulletin: route({
    method: 'post',
    path: '/own-bulletins/:id/end',
    summary: 'Tell it no more',
    params: byUuid,
    body: ownBulletinEnd,
    answer: ownBulletin,
  }),
};
