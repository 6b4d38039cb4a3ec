import { Router, json } from 'express';
import { newRelay, newStandingRule, ruleChange } from '@tombolo/contract';
import { z } from 'zod';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { proposeRelays, relayItem } from '../../relay/relay';
import { listRules } from '../../relay/rules';
import { rowsOf } from '../../store/database';
import { appendEvents } from '../../store/events';
import { itemDetail } from '../../traffic/views';
import { read } from '../problem';

/** The relay desk: ways on for an item, handing it on, standing rules. */
export function relayRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const now = () => new Date(context.now());
  const idOf = (parameters: unknown) => read(z.object({ id: z.uuid() }), parameters).id;
  const rulesChanged = () => appendEvents(database, [{ type: 'rule', data: {} }], now());

  router.get('/items/:id/relays', async (request, response) => {
    response.json(await proposeRelays(database, idOf(request.params), await context.settings()));
  });
  router.post('/items/:id/relays', json(), async (request, response) => {
    const id = idOf(request.params);
    const relay = read(newRelay, request.body);
    await relayItem(database, id, relay, await context.settings(), now(), 'by hand');
    context.wakeOutbox();
    response.status(201).json(await itemDetail(database, id, now()));
  });

  router.get('/rules', async (_request, response) => {
    response.json(await listRules(database));
  });
  router.post('/rules', json(), async (request, response) => {
    const rule = read(newStandingRule, request.body);
    await database.query(
      'insert into standing_rule (id, rule, created_at) values ($1,$2,$3) on conflict (id) do nothing',
      [rule.id, JSON.stringify(rule), now()],
    );
    await rulesChanged();
    response.status(201).json((await listRules(database)).find(({ id }) => id === rule.id));
  });
  router.patch('/rules/:id', json(), async (request, response) => {
    const id = idOf(request.params);
    const { enabled } = read(ruleChange, request.body);
    const changed = await rowsOf<{ id: string }>(database, 'select id from standing_rule where id = $1', [id]);
    if (changed.length === 0)
      throw new ProblemError(404, 'no-such-rule', 'That rule does not exist', `There is no rule ${id}.`);
    await database.query('update standing_rule set enabled = $2 where id = $1', [id, enabled]);
    await rulesChanged();
    context.rulesChanged();
    response.json((await listRules(database)).find((rule) => rule.id === id));
  });
  router.delete('/rules/:id', async (request, response) => {
    await database.query('delete from standing_rule where id = $1', [idOf(request.params)]);
    await rulesChanged();
    response.status(204).end();
  });
  return router;
}
