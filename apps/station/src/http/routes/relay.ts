import { Router } from 'express';
import { routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { relayItem } from '../../relay/relay';
import { proposeRelays } from '../../relay/verdict';
import { listRules } from '../../relay/rules';
import { appendEvents } from '../../store/events';
import { knownItem } from '../../traffic/views';
import { serve } from '../serve';

/** The relay desk: ways on for an item, handing it on, standing rules. */
export function relayRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const now = () => new Date(context.now());
  const rulesChanged = () => appendEvents(database, [{ type: 'rule', data: {} }], now());

  serve(router, routes.relays, async ({ params }) => proposeRelays(database, params.id, await context.settings()));
  serve(router, routes.relay, async ({ params: { id }, body }) => {
    await relayItem(database, id, body, await context.settings(), now(), 'by hand');
    context.wakeOutbox();
    return knownItem(database, id, now());
  });

  serve(router, routes.rules, () => listRules(database));
  serve(router, routes.addRule, async ({ body: rule }) => {
    await database.query(
      'insert into standing_rule (id, rule, created_at) values ($1,$2,$3) on conflict (id) do nothing',
      [rule.id, JSON.stringify(rule), now()],
    );
    await rulesChanged();
    return one(rule.id);
  });
  serve(router, routes.turnRule, async ({ params: { id }, body: { enabled } }) => {
    await one(id);
    await database.query('update standing_rule set enabled = $2 where id = $1', [id, enabled]);
    await rulesChanged();
    context.rulesChanged();
    return one(id);
  });
  serve(router, routes.removeRule, async ({ params }) => {
    await database.query('delete from standing_rule where id = $1', [params.id]);
    await rulesChanged();
  });

  const one = async (id: string) => {
    const rule = (await listRules(database)).find((candidate) => candidate.id === id);
    if (!rule) throw new ProblemError(404, 'no-such-rule', 'That rule does not exist', `There is no rule ${id}.`);
    return rule;
  };
  return router;
}
