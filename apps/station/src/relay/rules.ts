import { randomUUID } from 'node:crypto';
import { withinHours } from '@tombolo/core';
import { newStandingRule, type Settings, type StandingRule } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { ProblemError } from '../problem-error';
import type { PlanningContext } from '../planning/context';
import { notePredictions } from '../planning/predictions';
import { rowsOf, type Queries } from '../store/database';
import { leftInHour } from './rate';
import { relayItem } from './relay';
import { proposeRelays } from './verdict';

interface RuleRow {
  id: string;
  rule: unknown;
  enabled: boolean;
  created_at: Date;
}

const viewOf = (row: RuleRow): StandingRule => ({
  ...newStandingRule.parse(row.rule),
  id: row.id,
  enabled: row.enabled,
  createdAt: row.created_at.toISOString(),
});

export async function listRules(queries: Queries): Promise<StandingRule[]> {
  const rows = await rowsOf<RuleRow>(queries, 'select * from standing_rule order by created_at', []);
  return rows.map(viewOf);
}

/**
 * Hands on by itself what an enabled rule covers. It goes through the same guards as a relay by hand; third-party traffic counts as
 * released, because whoever turned the rule on answers for it.
 */
export async function applyRules(
  source: DataSource,
  settings: Settings,
  at: Date,
  planning: () => Promise<PlanningContext>,
  log: (message: string) => void,
): Promise<void> {
  const handedOn: string[] = [];
  const rules = (await listRules(source)).filter((rule) => rule.enabled && withinHours(rule.hours, at.toISOString()));
  for (const rule of rules) {
    let left = await leftInHour(source, rule, at);
    if (left <= 0) continue;
    const items = await rowsOf<{ id: string }>(
      source,
      `select i.id from item i join leg l on l.item_id = i.id and l.role = 'convey' and not coalesce(l.detail ? 'relay', false)
       where i.direction = 'in' and not i.undecipherable and i.filed_at is null and l.bearer_id = $1 and i.created_at > $2
         and ($3::text[] = '{}' or i.sender = any($3))
         and not exists (select 1 from leg r where r.item_id = i.id and r.detail ? 'relay' and r.bearer_id = $4 and r.to_call = $5)
       order by i.created_at limit 20`,
      [
        rule.fromBearer,
        new Date(Math.max(Date.parse(rule.createdAt), at.getTime() - 3600_000)),
        rule.senders,
        rule.toBearer,
        rule.to,
      ],
    );
    for (const { id } of items) {
      if (left <= 0) break;
      const [way] = await proposeRelays(source, id, planning, { bearerId: rule.toBearer, to: rule.to });
      if (!way || way.refused) continue;
      try {
        await relayItem(
          source,
          id,
          {
            id: randomUUID(),
            bearerId: way.bearerId,
            to: way.to,
            person: way.person,
            text: way.text,
            released: true,
            ...(way.planned?.path && { path: way.planned.path }),
          },
          settings,
          at,
          `by rule ${rule.id.slice(0, 8)} “${rule.name}”`,
          rule,
        );
        left--;
        handedOn.push(id);
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error;
        log(`rule “${rule.name}”: ${error.message}`);
      }
    }
  }
  if (handedOn.length > 0)
    // A forecast that fails must not hold up what was handed on.
    await planning()
      .then((context) => notePredictions(source, context, handedOn))
      .catch((error: Error) => log(`planning: ${error.message}`));
}
