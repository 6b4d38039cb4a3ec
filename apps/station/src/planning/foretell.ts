import type { StationContext } from '../context';
import { within } from '../within';
import { planningOf } from './of-station';
import { notePredictions } from './predictions';

/** A forecast that takes longer is kept when it is there. */
const FORETOLD_WITHIN_MS = 5000;

/** Keeps what is expected of items that were queued just now. A forecast that fails must not hold up who queued them. */
export async function foretell(context: StationContext, itemIds: readonly string[]): Promise<void> {
  try {
    const noted = planningOf(context).then((planning) => notePredictions(context.database, planning, itemIds));
    await within(FORETOLD_WITHIN_MS, noted);
  } catch (error) {
    context.log(`planning: ${(error as Error).message}`);
  }
}
