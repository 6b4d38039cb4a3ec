import { z } from 'zod';
import { newSession, offerView, sessionView, terminalLine } from '../exchange';
import { itemsQuery, pageOf, transmissionsQuery } from '../heard';
import { meshNodeView } from '../mesh';
import { newRelay, newStandingRule, relayProposal, ruleChange, standingRule } from '../relay';
import { filing, itemAction, itemDetail, itemSummary, openItems, transmissionView } from '../traffic';
import { newPositionReport } from '../position-report';
import { newItem } from '../write';
import { byUuid, ofBearer } from '../parameters';
import { route } from './route';

/** Traffic: what is in hand, what is written for each way, sessions, the relay desk. */
export const trafficRoutes = {
  items: route({
    method: 'get',
    path: '/items',
    summary: 'Traffic, newest first',
    query: itemsQuery,
    answer: pageOf(itemSummary),
  }),
  openItems: route({
    method: 'get',
    path: '/items/open',
    summary: 'All that needs somebody or is on its way, however old',
    answer: openItems,
  }),
  queueItem: route({
    method: 'post',
    path: '/items',
    summary: 'Queue something for somebody, by a way',
    body: newItem,
    bodyLimit: '8mb',
    answer: itemDetail,
    status: 201,
  }),
  transmissions: route({
    method: 'get',
    path: '/transmissions',
    summary: 'What went out, or waits to, and belongs to no item; newest first',
    query: transmissionsQuery,
    answer: pageOf(transmissionView),
  }),
  sendPosition: route({
    method: 'post',
    path: '/position-reports',
    summary: 'Send our own position, once',
    body: newPositionReport,
    answer: transmissionView,
    status: 201,
  }),
  item: route({
    method: 'get',
    path: '/items/:id',
    summary: 'An item with its legs and evidence',
    params: byUuid,
    answer: itemDetail,
  }),
  act: route({
    method: 'post',
    path: '/items/:id/actions',
    summary: 'Retry, cancel, release, file or unfile',
    params: byUuid,
    body: itemAction,
    answer: itemDetail,
  }),
  fileItems: route({
    method: 'post',
    path: '/items/filing',
    summary: 'File or unfile many at once; those that are already so stay as they are',
    body: filing,
    answer: z.object({ changed: z.array(z.uuid()) }),
  }),
  message: route({
    method: 'get',
    path: '/items/:id/message.eml',
    summary: 'A mail as it is (RFC 5322)',
    params: byUuid,
    answer: 'message/rfc822',
  }),
  attachment: route({
    method: 'get',
    path: '/attachments/:id',
    summary: 'An attachment',
    params: byUuid,
    answer: 'application/octet-stream',
  }),
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
  relays: route({
    method: 'get',
    path: '/items/:id/relays',
    summary: 'Ways on for an arrived item',
    params: byUuid,
    answer: z.array(relayProposal),
  }),
  relay: route({
    method: 'post',
    path: '/items/:id/relays',
    summary: 'Hand an item on',
    params: byUuid,
    body: newRelay,
    answer: itemDetail,
    status: 201,
  }),
  rules: route({
    method: 'get',
    path: '/rules',
    summary: 'Standing rules of the relay desk',
    answer: z.array(standingRule),
  }),
  addRule: route({
    method: 'post',
    path: '/rules',
    summary: 'Add a rule, turned off',
    body: newStandingRule,
    answer: standingRule,
    status: 201,
  }),
  changeRule: route({
    method: 'patch',
    path: '/rules/:id',
    summary: 'Turn a rule on or off, or change what it does: that turns it off',
    params: byUuid,
    body: ruleChange,
    answer: standingRule,
  }),
  removeRule: route({ method: 'delete', path: '/rules/:id', summary: 'Remove a rule', params: byUuid, answer: null }),
};
