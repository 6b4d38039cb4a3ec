import { z } from 'zod';
import { backupPlanChange, backupPlanView, backupView, newBackup } from '../backup';
import { keptView } from '../kept';
import { beaconNow } from '../beacon';
import { positionNow } from '../position-source';
import { settings, settingsChange } from '../settings';
import { simulation, simulationChange } from '../simulation';
import { health, liveEvent } from '../wire';
import { byUuid } from '../parameters';
import { route } from './route';

const eventsQuery = z.object({
  after: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER),
  limit: z.coerce.number().int().min(1).max(1000).default(200),
});

/** The station itself: health, settings, events, the simulated district, backups. */
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
  positionNow: route({
    method: 'get',
    path: '/position',
    summary: 'Where the station is now, and what its receiver says',
    answer: positionNow,
  }),
  beaconNow: route({
    method: 'get',
    path: '/beacon',
    summary: 'Whether our position goes out by itself, and why not',
    answer: beaconNow,
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
  backups: route({
    method: 'get',
    path: '/backups',
    summary: 'Backups made by the button',
    answer: z.array(backupView),
  }),
  backupPlan: route({
    method: 'get',
    path: '/backup-plan',
    summary: 'Backups that are made by the clock',
    answer: backupPlanView,
  }),
  changeBackupPlan: route({
    method: 'put',
    path: '/backup-plan',
    summary: 'Have backups made by the clock',
    body: backupPlanChange,
    answer: backupPlanView,
  }),
  makeBackup: route({
    method: 'post',
    path: '/backups',
    summary: 'Make a backup',
    body: newBackup,
    answer: backupView,
    status: 202,
  }),
  backupFile: route({
    method: 'get',
    path: '/backups/:id/file',
    summary: 'The file of a backup',
    params: byUuid,
    answer: 'application/octet-stream',
  }),
};
