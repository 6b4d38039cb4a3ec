import type { Composer } from '../kind';
import { later } from '../later';

export const mail: Composer = { id: 'mail', title: 'Mail', Form: later(() => import('./mail'), 'the mail') };
