import { z } from 'zod';
import {
  bearerChange,
  bearerView,
  holdChange,
  holdView,
  invitationRequest,
  invitationView,
  newBearer,
} from '../bearers';
import { waitingDrop, waitingView } from '../waiting';
import { route } from './route';

/** The bearers, and the hand on all of them. */
export const bearerRoutes = {
  bearers: route({ method: 'get', path: '/bearers', summary: 'Bearers', answer: z.array(bearerView) }),
  addBearer: route({
    method: 'post',
    path: '/bearers',
    summary: 'Add a bearer',
    body: newBearer,
    answer: bearerView,
    status: 201,
  }),
  changeBearer: route({
    method: 'patch',
    path: '/bearers/:id',
    summary: 'Change a bearer',
    body: bearerChange,
    answer: bearerView,
  }),
  removeBearer: route({ method: 'delete', path: '/bearers/:id', summary: 'Remove a bearer', answer: null }),
  invitation: route({
    method: 'post',
    path: '/bearers/:id/invitations',
    summary: 'The invitation to a channel of a mesh: the key leaves the station only so',
    body: invitationRequest,
    answer: invitationView,
    status: 201,
  }),
  waiting: route({
    method: 'get',
    path: '/waiting',
    summary: 'What goes out by itself once it may',
    answer: z.array(waitingView),
  }),
  dropWaiting: route({
    method: 'post',
    path: '/waiting/drop',
    summary: 'Take some of what waits out of the queue',
    body: waitingDrop,
    answer: z.object({ dropped: z.number().int() }),
  }),
  hold: route({
    method: 'get',
    path: '/hold',
    summary: 'Whether everything is held, and what the equipment has',
    answer: holdView,
  }),
  changeHold: route({
    method: 'put',
    path: '/hold',
    summary: 'Hold everything that would go out, or let it go on',
    body: holdChange,
    answer: holdView,
  }),
};
