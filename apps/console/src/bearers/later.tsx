import { lazy, Suspense, type ComponentType } from 'react';
import { Waiting } from '../ui/page';

/** What is loaded when it is first shown: every place knows all kinds of bearers, and the first one shows none from inside. */
export function later<Given extends object>(
  load: () => Promise<{ readonly default: ComponentType<Given> }>,
  what: string,
): ComponentType<Given> {
  const Shown = lazy(load) as unknown as ComponentType<Given>;
  const Later = (given: Given) => (
    <Suspense fallback={<Waiting what={what} />}>
      <Shown {...given} />
    </Suspense>
  );
  return Later;
}
