import { Router } from 'express';
import { routes } from '@tombolo/contract';
import type { StationContext } from '../../context';
import { ProblemError } from '../../problem-error';
import { foretell } from '../../planning/foretell';
import { planningOf } from '../../planning/of-station';
import { relayItem } from '../../relay/relay';
import { proposeRelays } from '../../relay/verdict';
import { listRules } from '../../relay/rules';
import { appendEvents } from '../../store/events';
import { knownItem } from '../../traffic/views';
import { repeatingState } from '../../repeating/state';
import { serve } from '../serve';
import { StandingRuleEntity, type StandingRuleRow } from '../../store/entities';
import type { Repository } from 'typeorm';

/** The relay desk: ways on for an item, handing it on, standing rules. */
export function relayRoutes(context: StationContext): Router {
  const router = Router();
  const { database } = context;
  const now = () => new Date(context.now());
  /** Changes the rules and tells the consoles, in one transaction. */
  const change = (of: (rules: Repository<StandingRuleRow>) => Promise<unknown>) =>
    database.transaction(async (manager) => {
      await of(manager.getRepository(StandingRuleEntity));
      await appendEvents(manager, [{ type: 'rule', data: {} }], now());
    });

  serve(router, routes.relays, async ({ params }) => proposeRelays(database, params.id, () => planningOf(context)));
  serve(router, routes.relay, async ({ params: { id }, body }) => {
    await relayItem(database, id, body, await context.settings(), now(), 'by hand');
    context.wakeOutbox();
    await foretell(context, [id]);
    return knownItem(database, id, now());
  });

  serve(router, routes.repeatingNow, async () => repeatingState(database, await context.settings(), context.now()));
  serve(router, routes.rules, () => listRules(database));
  serve(router, routes.addRule, async ({ body: rule }) => {
    await change((rules) =>
      rules
        .createQueryBuilder()
        .insert()
        .values({ id: rule.id, rule, enabled: false, createdAt: now() })
        .orIgnore()
        .execute(),
    );
    return one(rule.id);
  });
  serve(router, routes.changeRule, async ({ params: { id }, body: { enabled, ...told } }) => {
    await one(id);
    await change(async (rules) => {
      const row = await rules.findOneOrFail({ where: { id }, lock: { mode: 'pessimistic_write' } });
      const does = Object.keys(told).length > 0;
      await rules.update({ id }, { rule: { ...row.rule, ...told }, enabled: enabled ?? (does ? false : row.enabled) });
    });
    context.rulesChanged();
    return one(id);
  });
  serve(router, routes.removeRule, async ({ params }) => {
    await change((rules) => rules.delete({ id: params.id }));
  });

  const one = async (id: string) => {
    const rule = (await listRules(database)).find((candidate) => candidate.id === id);
    if (!rule) throw new ProblemError(404, 'no-such-rule', 'That rule does not exist', `There is no rule ${id}.`);
    return rule;
  };
  return router;
}
