import { useEffect, useState } from 'react';
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

/** A UTC time; the local time on tap. */
export function Instant({ iso, seconds }: { iso: string; seconds?: boolean }) {
  const [local, setLocal] = useState(false);
  const utc = seconds ? utcSeconds(iso) : utcTime(iso);
  return (
    <Pressable
      onPress={() => setLocal(!local)}
      role="button"
      aria-label={`${utc}, local time ${localTime(iso)}`}
      // Large enough for a glove without moving the line that it stands in.
      style={{ minHeight: 48, minWidth: 48, justifyContent: 'center', marginVertical: -12 }}
    >
      <Mono soft>{local ? localTime(iso) : utc}</Mono>
    </Pressable>
  );
}
