import { randomUUID } from 'node:crypto';
import { Router, json } from 'express';
import { bearerChange, newBearer, type BearerConfig, type BearerState } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { bearerViews } from '../../bearers/views';
import { rowsOf } from '../../store/database';
import { BearerEntity } from '../../store/entities';
import { appendEvents } from '../../store/events';
import { read } from '../problem';

/** Links: the bearers, as cards. */
export function bearerRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const bearers = database.getRepository(BearerEntity);
  const view = async (id: string) => {
    const views = await bearerViews(database, context.now(), (await context.settings()).txDelayMs);
    const found = views.find((candidate) => candidate.id === id);
    if (!found) throw new ProblemError(404, 'no-such-bearer', 'That link does not exist', `There is no link ${id}.`);
    return found;
  };
  const changed = async (id: string) => {
    await database.transaction((manager) =>
      appendEvents(manager, [{ type: 'bearer', data: { id } }], new Date(context.now())),
    );
    await context.bearersChanged();
  };

  router.get('/bearers', async (_request, response) => {
    response.json(await bearerViews(database, context.now(), (await context.settings()).txDelayMs));
  });
  router.post('/bearers', json(), async (request, response) => {
    const { name, config } = read(newBearer, request.body);
    const id = `${config.kind}-${randomUUID().slice(0, 8)}`;
    await insertBearer(context, id, name, config);
    await changed(id);
    response.status(201).json(await view(id));
  });
  router.patch('/bearers/:id', json(), async (request, response) => {
    const { id } = request.params;
    const change = read(bearerChange, request.body);
    const before = await view(id);
    if (change.config && change.config.kind !== before.config.kind)
      throw new ProblemError(422, 'kind', 'The kind of a link cannot be changed', 'Add a new link instead.');
    // The password never leaves this station: an empty one means that it stays.
    const kept = await bearers.findOneByOrFail({ id });
    if (change.config?.kind === 'radio-mail' && kept.config.kind === 'radio-mail' && change.config.password === '')
      change.config.password = kept.config.password;
    await bearers.update({ id }, change);
    await changed(id);
    response.json(await view(id));
  });
  router.delete('/bearers/:id', async (request, response) => {
    const { id } = request.params;
    await view(id);
    const [waiting] = await rowsOf<{ n: string }>(
      database,
      'select count(*) as n from leg where bearer_id = $1 and next_at is not null',
      [id],
    );
    if (Number(waiting?.n) > 0)
      throw new ProblemError(
        409,
        'in-use',
        'Texts wait for this link',
        `${waiting!.n} wait to be sent by it. Cancel them first, or switch the link off.`,
      );
    await bearers.delete({ id });
    await changed(id);
    response.status(204).end();
  });
  return router;
}

/** A new link, switched on; its adapter starts at the next look. */
export async function insertBearer(
  context: Pick<StationContext, 'database' | 'now'>,
  id: string,
  name: string,
  config: BearerConfig,
): Promise<void> {
  const at = new Date(context.now());
  const state: BearerState = { link: 'off', since: at.toISOString(), reason: null, nextTryAt: null };
  await context.database
    .getRepository(BearerEntity)
    .upsert({ id, name, config, enabled: true, state, createdAt: at }, ['id']);
}
