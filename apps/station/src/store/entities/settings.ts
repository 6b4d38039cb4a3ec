import type { Settings, StandingRule } from '@tombolo/contract';
import { counted, bigint, flag, instant, integer, json, key, maybe, table, text, uuid, type RowOf } from '../table';

export const SettingEntity = table('setting', {
  id: key(integer()),
  value: json<Settings>(),
  changedAt: instant(),
});

const standingRuleColumns = {
  id: key(uuid()),
  rule: json<StandingRule>(),
  enabled: flag(),
  createdAt: instant(),
};
export const StandingRuleEntity = table('standing_rule', standingRuleColumns);
export type StandingRuleRow = RowOf<typeof standingRuleColumns>;

/** What somebody changed of the station itself. */
export const AuditEntity = table('audit', {
  id: counted(bigint()),
  at: instant(),
  byWhom: text(),
  what: text(),
  detail: maybe(text()),
});
