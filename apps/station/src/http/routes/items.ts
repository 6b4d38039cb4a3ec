import { Router, json } from 'express';
import { itemAction, itemsQuery, newText } from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { ItemEntity } from '../../store/entities';
import { failpoint } from '../../store/failpoints';
import { formatItemKey, listItems } from '../../traffic/list';
import { cancelItem, fileItem, queueText, releaseItem, retryItem } from '../../traffic/compose';
import { itemDetail, summariesOf } from '../../traffic/views';
import { read } from '../problem';

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
  const idOf = (parameters: unknown) => read(z.object({ id: z.uuid() }), parameters).id;

  router.get('/items', async (request, response) => {
    const query = read(itemsQuery, request.query);
    const items = await listItems(database, query);
    const page = items.slice(0, query.limit);
    const last = page.at(-1);
    response.json({
      rows: await summariesOf(database, page, now()),
      next: items.length > query.limit && last ? formatItemKey(last) : null,
    });
  });
  router.post('/items', json(), async (request, response) => {
    const text = read(newText, request.body);
    const existed = await database.getRepository(ItemEntity).existsBy({ id: text.id });
    await queueText(database, text, await context.settings(), now());
    failpoint('queue:stored');
    context.wakeOutbox();
    response.status(existed ? 200 : 201).json(await detail(text.id));
  });
  router.get('/items/:id', async (request, response) => {
    response.json(await detail(idOf(request.params)));
  });
  router.post('/items/:id/actions', json(), async (request, response) => {
    const id = idOf(request.params);
    const { action } = read(itemAction, request.body);
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
    response.json(await detail(id));
  });
  return router;
}
