import { defaultSettings, settings, type Settings, type SettingsChange } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { noteInAudit } from './audit';
import { SettingEntity } from './entities';
import { appendEvents } from './events';
import { SETTINGS_LOCK } from './locks';

/** Reads settings; a field that an older version did not know takes its default. */
export async function readSettings(source: DataSource): Promise<Settings> {
  const row = await source.getRepository(SettingEntity).findOneBy({ id: 1 });
  return settings.parse({ ...defaultSettings, ...row?.value });
}

/** Changes some settings and tells the consoles. A new call sign asks for the licence again. */
export async function changeSettings(source: DataSource, change: SettingsChange, at: Date): Promise<Settings> {
  return source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [SETTINGS_LOCK]);
    const row = await manager.getRepository(SettingEntity).findOneBy({ id: 1 });
    const before = settings.parse({ ...defaultSettings, ...row?.value });
    const after = settings.parse({ ...before, ...change });
    if (after.call !== before.call && before.call !== '' && change.licenceConfirmed === undefined)
      after.licenceConfirmed = false;
    await manager.getRepository(SettingEntity).save({ id: 1, value: after, changedAt: at });
    await appendEvents(manager, [{ type: 'settings', data: {} }], at);
    return after;
  });
}

/** Holds everything that would go out, or lets it go on; who looks later can ask when that was. */
export async function holdEverything(source: DataSource, held: boolean, at: Date): Promise<Settings> {
  return source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock($1)', [SETTINGS_LOCK]);
    const row = await manager.getRepository(SettingEntity).findOneBy({ id: 1 });
    const before = settings.parse({ ...defaultSettings, ...row?.value });
    if ((before.heldSince !== null) === held) return before;
    const after: Settings = { ...before, heldSince: held ? at.toISOString() : null };
    await manager.getRepository(SettingEntity).save({ id: 1, value: after, changedAt: at });
    await noteInAudit(manager, at, held ? 'held everything' : 'let everything go on');
    await appendEvents(manager, [{ type: 'settings', data: {} }], at);
    return after;
  });
}
