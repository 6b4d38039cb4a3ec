import type { Laid } from './laid';

/** What stands in the bar of a phone as a mark, and in the rail of a wide screen with its word. */
export const inBar = (wide: boolean) =>
  ({
    row: true,
    minHeight: 48,
    minWidth: 48,
    align: 'center',
    justify: wide ? 'start' : 'center',
    gap: 12,
    padX: 10,
  }) as const satisfies Partial<Laid> & { row: true };

/** A row of a list, marked while it is what is open. */
export const inList = (open: boolean) =>
  ({
    padY: 10,
    ruled: true,
    mark: open ? 'tide' : 'none',
    ground: open ? 'leaf' : undefined,
  }) as const satisfies Partial<Laid>;
