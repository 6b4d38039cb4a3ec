import type { StationContext } from '../context';
import { planningOf } from './of-station';
import { notePredictions } from './predictions';

/** Keeps what is expected of items that were queued just now. A forecast that fails must not hold up what was queued. */
export async function foretell(context: StationContext, itemIds: readonly string[]): Promise<void> {
  try {
    await notePredictions(context.database, await planningOf(context), itemIds);
  } catch (error) {
    context.log(`planning: ${(error as Error).message}`);
  }
}
