import { Router } from 'express';
import { routes } from '@tombolo/contract';
import { createBackupRuns } from '../../backup/runs';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { serve } from '../serve';

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
  serve(router, routes.backups, async () => (runs ? await runs.list() : []));
  serve(router, routes.makeBackup, async ({ body: { passphrase } }) => {
    const id = await available().begin(passphrase);
    if (id === null)
      throw new ProblemError(409, 'backup-runs', 'A backup is being made', 'Wait for it; nothing was begun.');
    return (await available().list()).find((run) => run.id === id)!;
  });
  serve(router, routes.backupFile, async ({ params, response }) => {
    const file = available().file(params.id);
    if (!file)
      throw new ProblemError(
        404,
        'no-file',
        'That backup is not there any more',
        'It is kept for an hour. Make another.',
      );
    await new Promise<void>((resolve, reject) =>
      response.download(file, 'backup.tombolo', { headers: { 'Cache-Control': 'no-store' } }, (error?: Error) =>
        error ? reject(error) : resolve(),
      ),
    );
  });
  return router;
}
