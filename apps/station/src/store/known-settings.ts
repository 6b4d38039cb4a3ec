import type { DataSource } from 'typeorm';
import type { Settings } from '@tombolo/contract';
import { holdEverything, readSettings } from './settings';

/** The settings as this process knows them, and a hold that is kept whatever the database does. */
export interface KnownSettings {
  /** As last read: what must be known at once, as for every frame, is looked up here. Null before the first reading. */
  last(): Settings | null;
  read(): Promise<Settings>;
  /** After a change: resolves when it holds. Fails where it cannot be read; what was known holds until then. */
  readAnew(): Promise<void>;
  /** At once, whatever the database does: from here on nothing is handed over. */
  holdNow(): void;
  /** True while everything is held although that could not be stored. */
  holdIsPending(): boolean;
  storeHold(held: boolean): Promise<void>;
}

/** Reads settings once and keeps them until they change. */
export function createKnownSettings({
  database,
  now,
}: {
  readonly database: DataSource;
  readonly now: () => number;
}): KnownSettings {
  let known: Settings | null = null;
  let cached: Promise<Settings> | null = null;
  /** Since when everything is held although that could not be stored: the database is away. */
  let holdPending: string | null = null;
  const read = () => {
    if (cached) return cached;
    const reading: Promise<Settings> = readSettings(database).then(
      (current) => {
        // A hold that could not be stored yet holds all the same.
        const settings = holdPending && current.heldSince === null ? { ...current, heldSince: holdPending } : current;
        // Read before the last change, it would bring back what was before.
        if (cached === reading) known = settings;
        return settings;
      },
      (error: unknown) => {
        if (cached === reading) cached = null;
        throw error;
      },
    );
    cached = reading;
    return reading;
  };
  return {
    last: () => known,
    read,
    async readAnew() {
      cached = null;
      // Whoever changed something is answered when it holds: a lock, for one. Changed again meanwhile, the later reading is waited for.
      for (let reading = read(); ; reading = read()) {
        await reading;
        if (reading === cached) break;
      }
    },
    holdNow() {
      holdPending ??= known?.heldSince ?? new Date(now()).toISOString();
      if (known) known = { ...known, heldSince: known.heldSince ?? holdPending };
    },
    holdIsPending: () => holdPending !== null,
    async storeHold(held) {
      const stored = await holdEverything(database, held, new Date(now()));
      holdPending = null;
      known = stored;
    },
  };
}
