import { router, useLocalSearchParams } from 'expo-router';
import { useEffect, useRef, useState } from 'react';

/** Typing is written into the address when it rests so long. */
const REST_MS = 300;

/**
 * What is searched and filtered stands in the address: it survives a reload and the way back, and can be handed on. What equals its usual
 * value is left out of it. `usual` is the same object at each call.
 */
export function useAddressed<T extends Readonly<Record<string, string>>>(
  usual: T,
): readonly [T, (change: Partial<T>) => void] {
  const told = useLocalSearchParams<Record<string, string | string[]>>();
  const addressed = Object.fromEntries(
    Object.entries(usual).map(([name, value]) => {
      const said = told[name];
      return [name, typeof said === 'string' ? said : value];
    }),
  ) as T;
  // Typed, and not in the address yet.
  const [typed, setTyped] = useState<Partial<T>>({});
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(timer.current), []);
  const arrived = Object.entries(typed).every(([name, value]) => addressed[name] === value);
  if (arrived && Object.keys(typed).length > 0) setTyped({});
  const shown = { ...addressed, ...typed };
  const change = (wanted: Partial<T>) => {
    const all = { ...typed, ...wanted };
    setTyped(all);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => {
      router.setParams(
        Object.fromEntries(
          Object.entries(all).map(([name, value]) => [name, value === usual[name] ? undefined : (value as string)]),
        ),
      );
    }, REST_MS);
  };
  return [shown, change];
}
