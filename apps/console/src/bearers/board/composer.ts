import type { Composer } from '../kind';
import { later } from '../later';

export const boardMessage: Composer = {
  id: 'board',
  title: 'Board',
  Form: later(() => import('./board-message'), 'the message'),
};
