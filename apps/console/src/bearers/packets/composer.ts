import type { Composer } from '../kind';
import { later } from '../later';

/** A command to a service behind a gateway. */
const service: Composer = {
  id: 'service',
  title: 'By a service',
  always: true,
  Form: later(() => import('./service/service-command'), 'the services'),
};

export const packets: Composer = {
  id: 'radio',
  title: 'Packet radio',
  always: true,
  Form: later(() => import('./radio-text'), 'the text'),
  further: [service],
};
