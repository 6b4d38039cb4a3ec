import { z } from 'zod';
import { keptView } from '../kept';
import { settings, settingsChange } from '../settings';
import { simulation, simulationChange } from '../simulation';
import { health, liveEvent } from '../wire';
import { route } from './route';

const eventsQuery = z.object({
  after: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});

/** The station itself: health, settings, events, the simulated district. */
export const stationRoutes = {
  health: route({ method: 'get', path: '/health', summary: 'Whether the station is up', answer: health }),
  settings: route({ method: 'get', path: '/settings', summary: 'Settings', answer: settings }),
  changeSettings: route({
    method: 'patch',
    path: '/settings',
    summary: 'Change some settings',
    body: settingsChange,
    answer: settings,
  }),
  events: route({
    method: 'get',
    path: '/events',
    summary: 'Events after a number',
    query: eventsQuery,
    answer: z.array(liveEvent),
  }),
  simulation: route({
    method: 'get',
    path: '/simulation',
    summary: 'The simulated district',
    answer: simulation.nullable(),
  }),
  changeSimulation: route({
    method: 'put',
    path: '/simulation',
    summary: 'Change its speed',
    body: simulationChange,
    answer: simulation,
  }),
  kept: route({ method: 'get', path: '/kept', summary: 'What is kept of what was heard', answer: keptView }),
};
