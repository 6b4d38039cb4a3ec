import { z } from 'zod';
import { backupPlanChange, backupPlanView, backupView, newBackup } from '../backup';
import { byUuid } from '../parameters';
import { route } from './route';

/** Backups by the button and by the clock. */
export const backupRoutes = {
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
