import { newPositionReport } from '../position-report';
import { itemDetail, transmissionView } from '../traffic';
import { newItem } from '../write';
import { route } from './route';

/** What goes out because somebody wrote it or pressed for it. */
export const writingRoutes = {
  queueItem: route({
    method: 'post',
    path: '/items',
    summary: 'Queue something for somebody, by a way',
    body: newItem,
    bodyLimit: '8mb',
    answer: itemDetail,
    status: 201,
  }),
  sendPosition: route({
    method: 'post',
    path: '/position-reports',
    summary: 'Send our own position, once',
    body: newPositionReport,
    answer: transmissionView,
    status: 201,
  }),
};
