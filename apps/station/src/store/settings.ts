import {
  defaultSettings,
  settings,
  SETTINGS_PARTS,
  type OwnEmergency,
  type Settings,
  type SettingsChange,
  type SettingsPart,
} from '@tombolo/contract';
import { isDeepStrictEqual } from 'node:util';
import type { DataSource, EntityManager } from 'typeorm';
import { noteInAudit } from './audit';
import { SettingEntity } from './entities';
import { appendEvents } from './events';
import { SETTINGS_LOCK } from './locks';

/** Reads settings; a field that an older version did not know takes its default. */
export async function readSettings(store: DataSource | EntityManager): Promise<Settings> {
  const rows = await store.getRepository(SettingEntity).find();
  return settings.parse(Object.assign({ ...defaultSettings }, ...rows.map(({ value }) => value)));
}

/** One change at a time: `change` gives what shall be, out of what is. Each part is kept by itself; the consoles are told. */
const changing = (
  source: DataSource,
  at: Date,
  change: (before: Settings, manager: EntityManager) => Promise<Settings> | Settings,
): Promise<Settings> =>
  source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [SETTINGS_LOCK]);
    const before = await readSettings(manager);
    const after = settings.parse(await change(before, manager));
    const parts = Object.keys(SETTINGS_PARTS) as SettingsPart[];
    const changed = parts.filter((part) => {
      const { shape } = SETTINGS_PARTS[part];
      return (Object.keys(shape) as (keyof Settings)[]).some((key) => !isDeepStrictEqual(before[key], after[key]));
    });
    for (const part of changed)
      await manager
        .getRepository(SettingEntity)
        .save({ part, value: SETTINGS_PARTS[part].parse(after), changedAt: at });
    if (changed.length > 0) await appendEvents(manager, [{ type: 'settings', data: {} }], at);
    return after;
  });

/** Changes some settings. A new call sign asks for the licence again. */
export const changeSettings = (source: DataSource, change: SettingsChange, at: Date): Promise<Settings> =>
  changing(source, at, (before) => {
    const after = { ...before, ...change };
    const another = change.call !== undefined && change.call !== before.call && before.call !== '';
    return another && change.licenceConfirmed === undefined ? { ...after, licenceConfirmed: false } : after;
  });

/** Holds everything that would go out, or lets it go on; who looks later can ask when that was. */
export const holdEverything = (source: DataSource, held: boolean, at: Date): Promise<Settings> =>
  changing(source, at, async (before, manager) => {
    if ((before.heldSince !== null) === held) return before;
    await noteInAudit(manager, at, held ? 'held everything' : 'let everything go on');
    return { ...before, heldSince: held ? at.toISOString() : null };
  });

/** Calls for help, with other words than before where it does already, or ends it; who looks later can ask when that was. */
export const callForHelp = (
  source: DataSource,
  wanted: Omit<OwnEmergency, 'since'> | null,
  at: Date,
): Promise<Settings> =>
  changing(source, at, async (before, manager) => {
    if (wanted === null && before.emergency === null) return before;
    const what = (wanted ?? before.emergency)!.drill ? 'the drill of a call for help' : 'a call for help';
    await noteInAudit(
      manager,
      at,
      `${wanted ? (before.emergency ? 'changed' : 'began') : 'ended'} ${what}`,
      wanted?.words,
    );
    // A drill that becomes real is another call.
    const goes = before.emergency?.drill === wanted?.drill ? before.emergency : null;
    return { ...before, emergency: wanted && { ...wanted, since: goes?.since ?? at.toISOString() } };
  });
