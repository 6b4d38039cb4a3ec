import { DISTANCE_UNITS, type DistanceUnit } from '@tombolo/core';
import { z } from 'zod';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { utcAndLocal, utcTime } from '../ui/time';

/** What is a matter of this device, and of nobody else's. */
const preferences = z.object({
  distanceUnit: z.enum(DISTANCE_UNITS),
  /** Whether the clock of this device stands beside UTC. */
  localTimes: z.boolean(),
  /** Whether a key by itself goes to a place. */
  singleKeys: z.boolean(),
  /** Whoever ticks a line of a set-up sheet here. */
  initials: z.string().max(30),
  /** After so many minutes somebody is told again that a text waits for an answer; null for never. */
  unansweredMin: z.number().int().min(1).max(1440).nullable(),
  /** The first steps of a new station were left or done here. */
  firstStepsOver: z.boolean(),
});
type Preferences = z.infer<typeof preferences>;

interface PreferencesStore extends Preferences {
  readonly prefer: (change: Partial<Preferences>) => void;
}

const DEFAULT: Preferences = {
  distanceUnit: 'km',
  localTimes: false,
  singleKeys: true,
  initials: '',
  unansweredMin: null,
  firstStepsOver: false,
};

/** Preferences of this device; they survive a reload. */
export const usePreferences = create<PreferencesStore>()(
  persist((set) => ({ ...DEFAULT, prefer: (change) => set(change) }), {
    name: 'tombolo-preferences',
    storage: createJSONStorage(() => localStorage),
    // What is kept may be of another version, or broken.
    merge: (kept, current) => {
      const read = preferences.partial().safeParse(kept ?? {});
      return read.success ? { ...current, ...read.data } : current;
    },
  }),
);

export const useDistanceUnit = (): DistanceUnit => usePreferences(({ distanceUnit }) => distanceUnit);

/** How times stand where no tap tells the other one: in rows, and within sentences. */
export const useTimeWords = (): typeof utcTime =>
  usePreferences(({ localTimes }) => localTimes) ? utcAndLocal : utcTime;
