import { z } from 'zod';
import { newSession, offerView, sessionView, terminalLine } from '../exchange';
import { meshNodeView } from '../mesh';
import { byUuid, ofBearer } from '../parameters';
import { route } from './route';

/** Nodes of the mesh, and sessions with boards and gateways. */
export const sessionRoutes = {
  meshNodes: route({ method: 'get', path: '/mesh-nodes', summary: 'Nodes of the mesh', answer: z.array(meshNodeView) }),
  offers: route({
    method: 'get',
    path: '/offers',
    summary: 'What lies at a board or gateway',
    query: ofBearer,
    answer: z.array(offerView),
  }),
  sessions: route({
    method: 'get',
    path: '/sessions',
    summary: 'Sessions with a board or gateway',
    query: ofBearer,
    answer: z.array(sessionView),
  }),
  beginSession: route({
    method: 'post',
    path: '/sessions',
    summary: 'Begin a session',
    body: newSession,
    answer: sessionView,
    status: 201,
  }),
  session: route({
    method: 'get',
    path: '/sessions/:id',
    summary: 'A session',
    params: byUuid,
    answer: sessionView,
  }),
  endSession: route({
    method: 'delete',
    path: '/sessions/:id',
    summary: 'End a session',
    params: byUuid,
    answer: sessionView,
  }),
  typeLine: route({
    method: 'post',
    path: '/sessions/:id/lines',
    summary: 'Type a line at a terminal',
    params: byUuid,
    body: terminalLine,
    answer: sessionView,
  }),
};
