import { ownStation, USUAL_DECKS, type PhraseDeck, type Settings, type StationView } from '@tombolo/contract';
import {
  bearingBetween,
  compassPoint,
  distanceInWords,
  locatorOf,
  type DistanceUnit,
  type PhraseKnown,
} from '@tombolo/core';
import { z } from 'zod';
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';

const kept = z.object({
  /** The deck that was used last. */
  deck: z.string().max(30),
  /** How often each phrase was used here. */
  uses: z.record(z.string(), z.number().int().nonnegative()),
});

interface PhraseUse extends z.infer<typeof kept> {
  readonly chooseDeck: (deck: string) => void;
  readonly used: (phrase: string) => void;
}
const MOST_COUNTED = 400;

/** Which deck this device uses, and how often which phrase; nobody else's matter. */
export const usePhraseUse = create<PhraseUse>()(
  persist(
    (set) => ({
      deck: '',
      uses: {},
      chooseDeck: (deck) => set({ deck }),
      used: (phrase) =>
        set(({ uses }) => {
          const next = { ...uses, [phrase]: (Object.hasOwn(uses, phrase) ? uses[phrase]! : 0) + 1 };
          const most = Object.entries(next).sort(([, a], [, b]) => b - a);
          return { uses: most.length > MOST_COUNTED ? Object.fromEntries(most.slice(0, MOST_COUNTED)) : next };
        }),
    }),
    {
      name: 'tombolo-phrases',
      storage: createJSONStorage(() => localStorage),
      // What is kept may be of another version, or broken.
      merge: (of, current) => {
        const read = kept.partial().safeParse(of ?? {});
        return read.success ? { ...current, ...read.data } : current;
      },
    },
  ),
);

/** The phrases of a deck, what was used most first; those that were used alike stay in their order. */
export const byUse = (phrases: readonly string[], uses: Readonly<Record<string, number>>): string[] => {
  const count = (phrase: string) => (Object.hasOwn(uses, phrase) ? uses[phrase]! : 0);
  return [...phrases].sort((a, b) => count(b) - count(a));
};

export const decksOf = ({ phraseDecks }: Pick<Settings, 'phraseDecks'>): readonly PhraseDeck[] =>
  phraseDecks ?? USUAL_DECKS;

/** Nearer, one is there; farther, it helps nobody to find the place. */
const NEAR_KM = 0.1;
const FAR_KM = 50;

/** Where we are by the nearest thing on the map that has a name: `1.2 km NE of SHELTER 2`. */
export function placeInWords(
  position: Settings['position'],
  stations: readonly StationView[],
  unit: DistanceUnit,
): string | null {
  if (!position) return null;
  let nearest: { readonly name: string; readonly km: number; readonly from: number } | null = null;
  for (const { kind, name, latitude, longitude, live } of stations) {
    // Stations move; what was put on the map stays.
    if ((kind !== 'object' && kind !== 'item') || live === false || latitude === null || longitude === null) continue;
    const { distanceKm, azimuthDeg } = bearingBetween({ latitude, longitude }, position);
    if (distanceKm <= FAR_KM && (!nearest || distanceKm < nearest.km))
      nearest = { name: name.trim(), km: distanceKm, from: azimuthDeg };
  }
  if (!nearest) return null;
  return nearest.km < NEAR_KM
    ? `at ${nearest.name}`
    : `${distanceInWords(nearest.km, unit)} ${compassPoint(nearest.from)} of ${nearest.name}`;
}

/** What is known for the variables of phrases now. */
export function phraseKnown(
  settings: Settings,
  stations: readonly StationView[],
  { unit, deck, nowMs = Date.now() }: { readonly unit: DistanceUnit; readonly deck: string; readonly nowMs?: number },
): PhraseKnown {
  const { position } = settings;
  const at = new Date(nowMs).toISOString();
  return {
    call: ownStation(settings),
    locator: position && locatorOf(position),
    position: position && `${position.latitude.toFixed(4)} ${position.longitude.toFixed(4)}`,
    place: placeInWords(position, stations, unit),
    time: `${at.slice(11, 13)}${at.slice(14, 16)}Z`,
    net: deck || null,
    number: null,
  };
}
