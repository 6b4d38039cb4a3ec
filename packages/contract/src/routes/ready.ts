import { z } from 'zod';
import { byUuid } from '../parameters';
import { checkRun, checkRuns, newCheckRun, newOwnCause, ownCause, seen } from '../ready';
import { route } from './route';

/** The ready check: what the station sees by itself, and what was found here. */
export const readyRoutes = {
  seen: route({
    method: 'get',
    path: '/ready/seen',
    summary: 'Outcomes of tests that the station sees by itself',
    query: z.object({ bearerId: z.string().max(60).optional() }),
    answer: z.array(seen),
  }),
  checkRuns: route({
    method: 'get',
    path: '/ready/runs',
    summary: 'Checks that were kept, and how often each cause was found',
    answer: checkRuns,
  }),
  keepCheckRun: route({
    method: 'post',
    path: '/ready/runs',
    summary: 'Keep a check with its verdict',
    body: newCheckRun,
    answer: checkRun,
    status: 201,
  }),
  ownCauses: route({
    method: 'get',
    path: '/ready/causes',
    summary: 'Causes that operators added',
    answer: z.array(ownCause),
  }),
  keepOwnCause: route({
    method: 'put',
    path: '/ready/causes/:id',
    summary: 'Add a cause, or change it',
    params: byUuid,
    body: newOwnCause,
    answer: ownCause,
  }),
  removeOwnCause: route({
    method: 'delete',
    path: '/ready/causes/:id',
    summary: 'Remove a cause that an operator added',
    params: byUuid,
    answer: null,
  }),
};
