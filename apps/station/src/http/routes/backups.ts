import { Router, json } from 'express';
import { newBackup } from '@tombolo/contract';
import { z } from 'zod';
import { createBackupRuns } from '../../backup/runs';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { read } from '../problem';

/** Backups by the button: made, verified, saved. Restoring is a command, with the station stopped. */
export function backupRoutes(context: StationContext): Router {
  const router = Router();
  const runs = context.backup ? createBackupRuns({ ...context, access: context.backup }) : null;
  const available = () => {
    if (!runs)
      throw new ProblemError(
        404,
        'no-backup',
        'No backups can be made here',
        'This station was started without access to PostgreSQL’s own programs. Use “npm run backup”.',
      );
    return runs;
  };
  router.get('/backups', async (_request, response) => {
    response.json(runs ? await runs.list() : []);
  });
  router.post('/backups', json(), async (request, response) => {
    const { passphrase } = read(newBackup, request.body);
    const id = await available().begin(passphrase);
    if (id === null)
      throw new ProblemError(409, 'backup-runs', 'A backup is being made', 'Wait for it; nothing was begun.');
    response.status(202).json((await available().list()).find((run) => run.id === id));
  });
  router.get('/backups/:id/file', (request, response) => {
    const { id } = read(z.object({ id: z.uuid() }), request.params);
    const file = available().file(id);
    if (!file)
      throw new ProblemError(
        404,
        'no-file',
        'That backup is not there any more',
        'It is kept for an hour. Make another.',
      );
    response.download(file, 'backup.tombolo', { headers: { 'Cache-Control': 'no-store' } });
  });
  return router;
}
