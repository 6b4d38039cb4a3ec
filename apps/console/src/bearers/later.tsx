import { lazy, Suspense, type ComponentType } from 'react';
import { Waiting } from '../ui/page';

const parts: (() => Promise<unknown>)[] = [];

/** What is loaded when it is first shown: every place knows all kinds of bearers, and the first one shows none from inside. */
export function later<Given extends object>(
  load: () => Promise<{ readonly default: ComponentType<Given> }>,
  what: string,
): ComponentType<Given> {
  parts.push(load);
  const Shown = lazy(load) as unknown as ComponentType<Given>;
  const Later = (given: Given) => (
    <Suspense fallback={<Waiting what={what} />}>
      <Shown {...given} />
    </Suspense>
  );
  return Later;
}

/** Loads them all before they are asked for, so that they are there when the network goes; what does not come is asked for again. */
export async function loadAllLater(): Promise<void> {
  for (const part of parts) await part().catch(() => undefined);
}
