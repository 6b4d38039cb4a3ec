import { useEffect, useRef } from 'react';
import type { FieldValues, Path, PathValue, UseFormReturn } from 'react-hook-form';

/** What was entered and not saved, by form, while this page is open. */
const entered = new Map<string, FieldValues>();

/** Lets go of all of it. */
export const forgetUnsaved = (): void => entered.clear();

/** Whoever leaves a form with edits finds them again; the browser asks before the page itself is left. */
export function useUnsaved<T extends FieldValues>(
  key: string,
  { getValues, setValue, formState }: Pick<UseFormReturn<T>, 'getValues' | 'setValue' | 'formState'>,
): void {
  const { isDirty, dirtyFields } = formState;
  // Only what was edited: the rest may have been changed elsewhere meanwhile.
  const edited = Object.entries(dirtyFields).flatMap(([name, dirty]) => (dirty ? [name as Path<T>] : []));
  const latest = useRef(edited);
  useEffect(() => {
    latest.current = edited;
  });
  useEffect(() => {
    for (const [name, value] of Object.entries(entered.get(key) ?? {}))
      setValue(name as Path<T>, value as PathValue<T, Path<T>>, { shouldDirty: true });
    return () => {
      if (latest.current.length === 0) entered.delete(key);
      else entered.set(key, Object.fromEntries(latest.current.map((name) => [name, getValues(name)])));
    };
  }, [key, getValues, setValue]);
  useEffect(() => {
    if (!isDirty) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [isDirty]);
}
