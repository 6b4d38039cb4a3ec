import { z } from 'zod';
import { ownObject, ownObjectChange, ownObjectEnd } from '../own-objects';
import { byUuid } from '../parameters';
import { route } from './route';

/** Things that we put on the map of all. */
export const ownObjectRoutes = {
  ownObjects: route({
    method: 'get',
    path: '/own-objects',
    summary: 'Objects and items that this station reports',
    answer: z.array(ownObject),
  }),
  keepOwnObject: route({
    method: 'put',
    path: '/own-objects/:id',
    summary: 'Put a thing on the map, move or change it',
    params: byUuid,
    body: ownObjectChange,
    answer: ownObject,
  }),
  endOwnObject: route({
    method: 'post',
    path: '/own-objects/:id/end',
    summary: 'Take a thing off the map, and say so by radio',
    params: byUuid,
    body: ownObjectEnd,
    answer: ownObject,
  }),
};
