import { carriageOf, INTERNET, type BearerView } from '@tombolo/contract';
import type { PlanningContext } from './context';

/** Planning with more thought off: nothing of it carries. Nothing is changed. */
export const thoughtOff = (context: PlanningContext, off: readonly string[]): PlanningContext => ({
  ...context,
  without: new Set([...context.without, ...off]),
});

/**
 * All without which nothing goes by a bearer: itself, and for sessions the modem, the digipeaters named and the station that is called. What
 * a mail relay hands on is taken to need the internet.
 */
export function carriedBy({ id, config }: Pick<BearerView, 'id' | 'config'>): string[] {
  const carriage = carriageOf(config);
  switch (carriage.what) {
    case 'messages':
      return [id, carriage.over, ...carriage.path, carriage.call];
    case 'mail':
      return [id, carriage.over, ...carriage.path, carriage.call, INTERNET];
    case 'packets':
    case 'texts':
    case 'nothing':
      return [id];
  }
}

interface OfHops {
  readonly hops: readonly { readonly from: string; readonly to: string }[];
  readonly repeaters: readonly string[];
}

/** A net without those that are off. */
export const hopsLeft = <N extends OfHops>(net: N, isOff: (station: string) => boolean): N => ({
  ...net,
  hops: net.hops.filter(({ from, to }) => !isOff(from) && !isOff(to)),
  repeaters: net.repeaters.filter((station) => !isOff(station)),
});
