import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { routes, type BearerConfig, type BearerState } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { adapterOf } from '../../bearers/registry';
import { bearerViews, withKeptSecrets } from '../../bearers/views';
import { dropWaiting, listWaiting } from '../../transmissions/waiting';
import { waitingFor } from '../../transmissions/write';
import { BearerEntity } from '../../store/entities';
import { appendEvents } from '../../store/events';
import { serve } from '../serve';
import { noteInAudit } from '../../store/audit';

/** The bearers, as cards. */
export function bearerRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const bearers = database.getRepository(BearerEntity);
  const all = async () =>
    bearerViews(database, {
      now: context.now(),
      settings: await context.settings(),
      running: context.bearers.running(),
    });
  const view = async (id: string) => {
    const views = await all();
    const found = views.find((candidate) => candidate.id === id);
    if (!found)
      throw new ProblemError(404, 'no-such-bearer', 'That bearer does not exist', `There is no bearer ${id}.`);
    return found;
  };
  const changed = async (id: string) => {
    await database.transaction((manager) =>
      appendEvents(manager, [{ type: 'bearer', data: { id } }], new Date(context.now())),
    );
    await context.bearersChanged();
  };

  serve(router, routes.bearers, () => all());
  serve(router, routes.addBearer, async ({ body: { name, config } }) => {
    refuseFaulty(config);
    const id = `${config.kind}-${randomUUID().slice(0, 8)}`;
    await insertBearer(context, id, name, config);
    await changed(id);
    return view(id);
  });
  serve(router, routes.changeBearer, async ({ params: { id }, body }) => {
    const { replaceKeys, config, ...change } = body;
    const before = await view(id);
    if (config && config.kind !== before.config.kind)
      throw new ProblemError(422, 'kind', 'The kind of a bearer cannot be changed', 'Add a new bearer instead.');
    if (config) refuseFaulty(config);
    // Secrets never leave this station: what is not given anew stays.
    const kept = await bearers.findOneByOrFail({ id });
    const changedConfig = config && withKeptSecrets(kept.config, config);
    if (changedConfig && changedConfig.unknown.length > 0)
      throw new ProblemError(
        422,
        'no-key',
        'There is no such key',
        `The key of ${changedConfig.unknown.join(', ')} was to stay, but this station has none. Nothing was changed.`,
      );
    if (changedConfig && changedConfig.replaced.length > 0 && !replaceKeys)
      throw new ProblemError(
        409,
        'key-replaced',
        'That would replace a key',
        `You are on ${changedConfig.replaced.join(', ')} already, under another key. Nothing was changed: with a new key nobody there would read you any more. If the key was really changed, forget the channel first and join it anew.`,
      );
    if (Object.keys(change).length > 0 || changedConfig)
      await bearers.update({ id }, { ...change, ...(changedConfig && { config: changedConfig.config }) });
    await changed(id);
    return view(id);
  });
  serve(router, routes.removeBearer, async ({ params: { id } }) => {
    await view(id);
    const waiting = await waitingFor(database, id);
    if (waiting > 0)
      throw new ProblemError(
        409,
        'in-use',
        'Texts wait for this bearer',
        `${waiting} wait to be sent by it. Cancel them first, or switch the bearer off.`,
      );
    await bearers.delete({ id });
    await changed(id);
  });
  serve(router, routes.invitation, async ({ params: { id }, body: { channel } }) => {
    await view(id);
    const { config } = await bearers.findOneByOrFail({ id });
    const line = adapterOf(config).invitation?.(config, channel) ?? null;
    if (line === null)
      throw new ProblemError(
        404,
        'no-such-channel',
        'That channel does not exist',
        `There is no channel “${channel}”.`,
      );
    await noteInAudit(database, new Date(context.now()), 'showed the invitation to a channel', `${id}: ${channel}`);
    return { line };
  });

  serve(router, routes.waiting, () => listWaiting(database, context.bearers.running(), context.now()));
  serve(router, routes.dropWaiting, async ({ body: { ids } }) => ({
    dropped: await dropWaiting(database, ids, new Date(context.now())),
  }));
  serve(router, routes.hold, () => context.holdView());
  serve(router, routes.changeHold, ({ body }) => context.hold(body.held));
  return router;
}

function refuseFaulty(config: BearerConfig): void {
  const fault = adapterOf(config).fault?.(config) ?? null;
  if (fault !== null)
    throw new ProblemError(422, 'config', 'That bearer could not be worked', `${fault} Nothing was changed.`);
}

/** A new bearer, switched on; its adapter starts at the next look. */
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
