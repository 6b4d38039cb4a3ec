import { useEffect, useRef } from 'react';
import type { FieldValues, Path, PathValue, UseFormReturn } from 'react-hook-form';

/** What was entered and not saved, by form, while this page is open. */
const entered = new Map<string, FieldValues>();

/** Lets go of all of it. */
export const forgetUnsaved = (): void => entered.clear();

/** Whoever leaves a form with edits finds them again; the browser asks before the page itself is left. */
export function useUnsaved<T extends FieldValues>(
  key: string,
  { getValues, setValue, formState: { isDirty } }: Pick<UseFormReturn<T>, 'getValues' | 'setValue' | 'formState'>,
): void {
  const dirty = useRef(isDirty);
  useEffect(() => {
    dirty.current = isDirty;
  }, [isDirty]);
  useEffect(() => {
    const kept = entered.get(key);
    if (kept)
      for (const [name, value] of Object.entries(kept))
        setValue(name as Path<T>, value as PathValue<T, Path<T>>, { shouldDirty: true });
    return () => {
      if (dirty.current) entered.set(key, getValues());
      else entered.delete(key);
    };
  }, [key, getValues, setValue]);
  useEffect(() => {
    if (!isDirty) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [isDirty]);
}
