import { z } from 'zod';
import { importQuery, importView } from '../imports';
import { byUuid } from '../parameters';
import { route } from './route';

/** Recordings that are read. */
export const importRoutes = {
  imports: route({ method: 'get', path: '/imports', summary: 'Imports', answer: z.array(importView) }),
  readRecording: route({
    method: 'post',
    path: '/imports',
    summary: 'Read a recording',
    query: importQuery,
    body: 'octets',
    answer: importView,
    status: 201,
  }),
  importOf: route({ method: 'get', path: '/imports/:id', summary: 'An import', params: byUuid, answer: importView }),
  removeImport: route({
    method: 'delete',
    path: '/imports/:id',
    summary: 'Take an import off the list; what was read stays',
    params: byUuid,
    answer: null,
  }),
};
