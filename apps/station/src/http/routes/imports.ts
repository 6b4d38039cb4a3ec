import { Router } from 'express';
import { routes, type ImportView } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { runImport } from '../../imports/run-import';
import { ImportEntity, type ImportRow } from '../../store/entities';
import { appendEvents } from '../../store/events';
import { IsNull } from 'typeorm';
import { serve } from '../serve';

/** Recordings: the body of the request is the file itself, read as it comes. */
export function importRoutes(context: StationContext): Router {
  const router = Router();
  const imports = context.database.getRepository(ImportEntity);
  serve(router, routes.imports, async () => {
    const rows = await imports.find({ where: { removedAt: IsNull() }, order: { startedAt: 'DESC' }, take: 50 });
    return rows.map(importView);
  });
  serve(router, routes.importOf, ({ params }) => find(params.id));
  serve(router, routes.readRecording, async ({ query, request }) => {
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
    return find(id);
  });
  /** Takes it off the list; what was read from it was heard, and stays in the log. */
  serve(router, routes.removeImport, async ({ params: { id } }) => {
    const { finishedAt } = await find(id);
    if (finishedAt === null)
      throw new ProblemError(409, 'still-read', 'It is still being read', 'Wait for its end; nothing was changed.');
    const at = new Date(context.now());
    await imports.update({ id }, { removedAt: at });
    await context.database.transaction((manager) => appendEvents(manager, [{ type: 'import', data: { id } }], at));
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
