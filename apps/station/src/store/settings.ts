import { defaultSettings, settings, type Settings, type SettingsChange } from '@tombolo/contract';
import type { DataSource } from 'typeorm';
import { SettingEntity } from './entities';
import { appendEvents } from './events';

/** Reads settings; a field that an older version did not know takes its default. */
export async function readSettings(source: DataSource): Promise<Settings> {
  const row = await source.getRepository(SettingEntity).findOneBy({ id: 1 });
  return settings.parse({ ...defaultSettings, ...row?.value });
}

/** Changes some settings and tells the consoles. A new call sign asks for the licence again. */
export async function changeSettings(source: DataSource, change: SettingsChange, at: Date): Promise<Settings> {
  return source.transaction(async (manager) => {
    await manager.query('select pg_advisory_xact_lock(7300002)');
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
