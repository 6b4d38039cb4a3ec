import { z } from 'zod';
import { itemsQuery, pageOf, transmissionsQuery } from '../paging';
import { byUuid } from '../parameters';
import { filing, itemAction, itemDetail, itemSummary, openItems, transmissionView } from '../traffic';
import { route } from './route';

/** Items, and transmissions that belong to none. */
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
  transmissions: route({
    method: 'get',
    path: '/transmissions',
    summary: 'What went out, or waits to, and belongs to no item; newest first',
    query: transmissionsQuery,
    answer: pageOf(transmissionView),
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
};
