import { z } from 'zod';
import { mapQuery, mapView } from '../maps';
import { byUuid } from '../parameters';
import { route } from './route';

/** Map files of the operator. */
export const mapRoutes = {
  maps: route({ method: 'get', path: '/maps', summary: 'Map files of the operator', answer: z.array(mapView) }),
  addMap: route({
    method: 'post',
    path: '/maps',
    summary: 'Add a map file',
    query: mapQuery,
    body: 'octets',
    answer: mapView,
    status: 201,
  }),
  removeMap: route({ method: 'delete', path: '/maps/:id', summary: 'Remove a map', params: byUuid, answer: null }),
  mapContent: route({
    method: 'get',
    path: '/maps/:id/content',
    summary: 'The file, also in pieces (Range)',
    params: byUuid,
    answer: 'application/octet-stream',
  }),
};
