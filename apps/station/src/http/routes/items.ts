import { Router } from 'express';
import { routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { foretell } from '../../planning/foretell';
import { failpoint } from '../../store/failpoints';
import { formatItemKey, listItems, listUnsettled } from '../../traffic/list';
import { cancelItem, fileItem, fileItems, releaseItem, retryItem } from '../../traffic/actions';
import { itemDetail, summariesOf } from '../../traffic/views';
import { queueOwnPosition } from '../../traffic/write/own-position';
import { queueItem } from '../../traffic/write/queue';
import { transmissionByItself, transmissionsByThemselves } from '../../transmissions/by-themselves';
import { serve } from '../serve';

/** Traffic: what is in hand, and what can be done with it. */
export function itemRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const now = () => new Date(context.now());
  const detail = async (id: string) => {
    const item = await itemDetail(database, id, now());
    if (!item) throw new ProblemError(404, 'no-such-item', 'That item does not exist', `There is no item ${id}.`);
    return item;
  };

  serve(router, routes.items, async ({ query }) => {
    const items = await listItems(database, query);
    const page = items.slice(0, query.limit);
    const last = page.at(-1);
    return {
      rows: await summariesOf(database, page, now()),
      next: items.length > query.limit && last ? formatItemKey(last) : null,
    };
  });
  serve(router, routes.openItems, async () => {
    const { items, more } = await listUnsettled(database);
    const summaries = await summariesOf(database, items, now());
    return { rows: summaries.filter(({ heap }) => heap === 'needs you' || heap === 'on its way'), more };
  });
  serve(router, routes.transmissions, ({ query }) => transmissionsByThemselves(database, query));
  serve(router, routes.sendPosition, async ({ body }) => {
    const { position } = await context.positionNow();
    await queueOwnPosition(database, body, { ...(await context.settings()), position }, now());
    context.wakeOutbox();
    const transmission = await transmissionByItself(database, body.id);
    if (!transmission)
      throw new ProblemError(409, 'taken', 'That identifier is taken', 'Something else has it. Nothing was queued.');
    return transmission;
  });
  serve(router, routes.queueItem, async ({ body, response }) => {
    const settings = await context.settings();
    const usesPosition = body.content.is === 'command' && body.content.positionFirst;
    const position = usesPosition ? (await context.positionNow()).position : settings.position;
    const isNew = await queueItem(database, body, { ...settings, position }, now());
    failpoint('queue:stored');
    context.wakeOutbox();
    if (isNew) await foretell(context, [body.id]);
    const item = await detail(body.id);
    // The same identifier again changes nothing, and says so.
    if (!isNew) response.status(200).json(item);
    return item;
  });
  serve(router, routes.item, ({ params }) => detail(params.id));
  serve(router, routes.act, async ({ params: { id }, body: { action } }) => {
    switch (action) {
      case 'retry':
        await retryItem(database, id, await context.settings(), now());
        context.wakeOutbox();
        break;
      case 'cancel':
        await cancelItem(database, id, now());
        break;
      case 'release':
        await releaseItem(database, id, now());
        context.wakeOutbox();
        break;
      case 'file':
      case 'unfile':
        await fileItem(database, id, action === 'file', now());
    }
    return detail(id);
  });
  serve(router, routes.fileItems, async ({ body: { ids, filed } }) => ({
    changed: await fileItems(database, ids, filed, now()),
  }));
  return router;
}
