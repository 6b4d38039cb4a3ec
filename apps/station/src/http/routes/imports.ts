import { Router } from 'express';
import { importQuery, type ImportView } from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { runImport } from '../../imports/run-import';
import { ImportEntity, type ImportRow } from '../../store/entities';
import { appendEvents } from '../../store/events';
import { IsNull } from 'typeorm';
import { read } from '../problem';

/** Recordings: the body of the request is the file itself, read as it comes. */
export function importRoutes(context: StationContext): Router {
  const router = Router();
  const imports = context.database.getRepository(ImportEntity);
  router.get('/imports', async (_request, response) => {
    const rows = await imports.find({ where: { removedAt: IsNull() }, order: { startedAt: 'DESC' }, take: 50 });
    response.json(rows.map(importView));
  });
  router.get('/imports/:id', async (request, response) => {
    const { id } = read(z.object({ id: z.uuid() }), request.params);
    response.json(await find(id));
  });
  router.post('/imports', async (request, response) => {
    const query = read(importQuery, request.query);
    const length = Number(request.headers['content-length']);
    const id = await runImport(
      context.pipeline,
      {
        name: query.name,
        format: query.format,
        startedAtMs: query.startedAt ? Date.parse(query.startedAt) : context.now(),
        totalOctets: Number.isFinite(length) ? length : null,
      },
      request,
    );
    response.status(201).json(await find(id));
  });
  /** Takes it off the list; what was read from it was heard, and stays in the log. */
  router.delete('/imports/:id', async (request, response) => {
    const { id } = read(z.object({ id: z.uuid() }), request.params);
    const { finishedAt } = await find(id);
    if (finishedAt === null)
      throw new ProblemError(409, 'still-read', 'It is still being read', 'Wait for its end; nothing was changed.');
    const at = new Date(context.now());
    await imports.update({ id }, { removedAt: at });
    await context.database.transaction((manager) => appendEvents(manager, [{ type: 'import', data: { id } }], at));
    response.status(204).end();
  });
  const find = async (id: string): Promise<ImportView> => {
    const row = await imports.findOneBy({ id });
    if (!row) throw new ProblemError(404, 'no-such-import', 'That import does not exist', `There is no import ${id}.`);
    return importView(row);
  };
  return router;
}

/** The most frequent first. */
const tallied = (counts: Readonly<Record<string, number>>) => Object.entries(counts).sort(([, a], [, b]) => b - a);

const importView = (row: ImportRow): ImportView => ({
  id: row.id,
  name: row.name,
  format: row.format,
  startedAt: row.startedAt.toISOString(),
  finishedAt: row.finishedAt?.toISOString() ?? null,
  totalOctets: row.totalOctets === null ? null : Number(row.totalOctets),
  readOctets: Number(row.readOctets),
  understood: row.understood,
  notUnderstood: row.notUnderstood,
  kinds: tallied(row.kinds).map(([kind, count]) => ({ kind, count })),
  reasons: tallied(row.reasons).map(([reason, count]) => ({ reason, count })),
  packets: row.packets,
  problem: row.problem,
});
