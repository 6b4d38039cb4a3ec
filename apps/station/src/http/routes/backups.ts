import { Router } from 'express';
import { routes } from '@tombolo/contract';
import { backupPlan, changeBackupPlan } from '../../backup/plan';
import { createBackupRuns } from '../../backup/runs';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { readSettings } from '../../store/settings';
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
  serve(router, routes.backupPlan, () => backupPlan(context.backupPlan));
  serve(router, routes.changeBackupPlan, async ({ body }) => {
    const { folder } = context.backupPlan;
    if (folder === null || !context.backup)
      throw new ProblemError(
        404,
        'no-backup',
        'No backups can be made here',
        'This station was started without a folder for them. Use “npm run backup”.',
      );
    const { passphraseSet } = await backupPlan(context.backupPlan);
    if (body.everyDays !== null && body.passphrase === null && !passphraseSet)
      throw new ProblemError(
        422,
        'no-passphrase',
        'A passphrase is missing',
        'Backups are sealed under one. Nothing was changed.',
      );
    await changeBackupPlan({ ...context.backupPlan, folder }, body);
    await context.settingsChanged();
    context.backupPlanChanged();
    return backupPlan({ ...context.backupPlan, settings: () => readSettings(context.database) });
  });
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
