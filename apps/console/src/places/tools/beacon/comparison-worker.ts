/** A worker of its own for a comparison: hours of a track must not hold up what is typed. */
export const comparisonWorker = (): Worker => new Worker(new URL('./comparison.worker.ts', import.meta.url));
