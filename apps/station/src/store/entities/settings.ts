import type { AddressSort, Settings, SettingsPart, StandingRule } from '@tombolo/contract';
import type { Piece } from '@tombolo/core';
import { counted, bigint, flag, instant, integer, json, key, maybe, table, text, uuid, type RowOf } from '../table';

/** A row for each part of the settings. */
export const SettingEntity = table('setting', {
  part: key(text<SettingsPart>()),
  value: json<Partial<Settings>>(),
  changedAt: instant(),
});

export const PersonEntity = table('person', {
  id: key(uuid()),
  name: text(),
  licensed: flag(),
  agreement: text(),
  createdAt: instant(),
});

/** Which station went by a tactical name, from when until when. */
export const TacticalNameEntity = table('tactical_name', {
  id: key(uuid()),
  name: text(),
  call: text(),
  since: instant(),
  until: maybe(instant()),
});

/** In the order in which they are to be used. */
export const PersonAddressEntity = table('person_address', {
  personId: key(uuid()),
  n: key(integer()),
  sort: text<AddressSort>(),
  address: text(),
});

/** Who takes something to a person by hand; one who is off the list may be put back. */
export const PersonBroughtByEntity = table('person_brought_by', {
  personId: key(uuid()),
  n: key(integer()),
  byId: uuid(),
  aboutMin: integer(),
});

/** A piece of equipment. */
export const EquipmentEntity = table('equipment', {
  id: key(uuid()),
  piece: json<Piece>(),
  createdAt: instant(),
});

/** A tick on a set-up sheet, or its taking back; the last one of a line holds. */
export const SheetTickEntity = table('sheet_tick', {
  n: counted(bigint()),
  id: uuid(),
  pieceId: uuid(),
  holder: text(),
  line: text(),
  value: text(),
  done: flag(),
  byWhom: text(),
  at: instant(),
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
