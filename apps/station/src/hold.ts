import type { DataSource } from 'typeorm';
import type { HoldView } from '@tombolo/contract';
import type { Supervisor } from './bearers/supervisor';
import type { KnownSettings } from './store/known-settings';
import { waitingInAll } from './transmissions/write';

export interface HoldContext {
  readonly database: DataSource;
  readonly known: Pick<KnownSettings, 'last' | 'holdNow' | 'holdIsPending' | 'storeHold'>;
  readonly supervisor: Pick<Supervisor, 'running' | 'wake'>;
  readonly settingsChanged: () => Promise<void>;
  readonly failed: (error: unknown) => void;
}

/** Holds everything that would go out, or lets it go on. */
export interface Hold {
  readonly view: () => Promise<HoldView>;
  readonly set: (held: boolean) => Promise<HoldView>;
  /** Stores one that could not be stored when it was asked for. */
  readonly storePending: () => void;
}

export function createHold({ database, known, supervisor, settingsChanged, failed }: HoldContext): Hold {
  const store = async (held: boolean) => {
    await known.storeHold(held);
    void settingsChanged();
  };
  const view = async (): Promise<HoldView> => {
    // Without the database nobody knows; what waits here in memory is known.
    const waiting = await waitingInAll(database).catch(() => 0);
    const running = supervisor.running();
    return {
      heldSince: known.last()?.heldSince ?? null,
      atEquipment: running.flatMap(({ id, name, bearer }) =>
        (bearer.atEquipment?.() ?? []).map(({ line, untilMs }) => ({
          bearerId: id,
          bearer: name,
          line,
          untilAt: new Date(untilMs).toISOString(),
        })),
      ),
      waiting: waiting + running.reduce((sum, { bearer }) => sum + (bearer.waiting?.() ?? 0), 0),
    };
  };
  return {
    view,
    async set(held) {
      if (held) {
        known.holdNow();
        supervisor.wake();
      }
      try {
        await store(held);
      } catch (error) {
        failed(error);
        // Letting go is not done unless it is on record; holding is.
        if (!held) throw error;
      }
      return view();
    },
    storePending() {
      if (known.holdIsPending()) void store(true).catch(() => undefined);
    },
  };
}
