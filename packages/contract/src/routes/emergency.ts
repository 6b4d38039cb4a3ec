import { emergencyNow, newEmergency } from '../emergency';
import { route } from './route';

/** Our own call for help. */
export const emergencyRoutes = {
  emergencyNow: route({
    method: 'get',
    path: '/emergency',
    summary: 'Whether we call for help, over which bearers, and who has heard it',
    answer: emergencyNow,
  }),
  callForHelp: route({
    method: 'post',
    path: '/emergency',
    summary: 'Call for help by every bearer that sends packets, until it is ended; one that goes on already is changed',
    body: newEmergency,
    answer: emergencyNow,
  }),
  endEmergency: route({
    method: 'post',
    path: '/emergency/end',
    summary: 'End our call for help, and say so by radio once',
    answer: emergencyNow,
  }),
};
