import { useEffect, useState, useSyncExternalStore } from 'react';
import { Pressable } from 'react-native';
import { localTime, utcSeconds, utcTime } from './time';
import { Mono } from './text';

/** The time of the screen, renewed so that ages stay true. */
export function useNow(everyMs = 5000): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now;
}

const TICK_MS = 5000;
let tickedAt = Date.now();
let timer: ReturnType<typeof setInterval> | undefined;
const listeners = new Set<() => void>();

/** One clock for all that read it, which stands still while nobody does. */
function onTick(listener: () => void): () => void {
  if (listeners.size === 0) {
    tickedAt = Date.now();
    timer = setInterval(() => {
      tickedAt = Date.now();
      for (const tell of listeners) tell();
    }, TICK_MS);
  }
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
    if (listeners.size === 0) clearInterval(timer);
  };
}

/** The time of the last tick; while nobody listens it is whatever it is. */
function ticked(): number {
  if (listeners.size === 0) tickedAt = Date.now();
  return tickedAt;
}

/** Words that time changes, such as an age: who says them is drawn again only when they are other words, so that a long list stays calm. */
export const useTimed = (words: (now: number) => string): string => useSyncExternalStore(onTick, () => words(ticked()));

/** A UTC time; the local time on tap. */
export function Instant({ iso, seconds }: { iso: string; seconds?: boolean }) {
  const [local, setLocal] = useState(false);
  const utc = seconds ? utcSeconds(iso) : utcTime(iso);
  return (
    <Pressable
      onPress={() => setLocal(!local)}
      // It belongs on paper, though it can be pressed (public/index.html).
      {...({ dataSet: { paper: 'yes' } } as object)}
      role="button"
      aria-label={`${utc}, local time ${localTime(iso)}`}
      // Large enough for a glove without moving the line that it stands in.
      style={{ minHeight: 48, minWidth: 48, justifyContent: 'center', marginVertical: -12 }}
    >
      <Mono soft>{local ? localTime(iso) : utc}</Mono>
    </Pressable>
  );
}
