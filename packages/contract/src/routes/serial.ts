import { z } from 'zod';
import { newProbe, probeView, serialPort } from '../serial';
import { route } from './route';

/** Serial lines of this machine. */
export const serialRoutes = {
  serialPorts: route({
    method: 'get',
    path: '/serial-ports',
    summary: 'Serial devices that there are now',
    answer: z.array(serialPort),
  }),
  probeSpeeds: route({
    method: 'post',
    path: '/serial-ports/probe',
    summary: 'Listen to a device at one speed after the other until something makes sense',
    body: newProbe,
    answer: probeView,
  }),
};
