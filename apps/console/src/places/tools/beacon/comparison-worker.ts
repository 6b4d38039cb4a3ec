declare const require: { unstable_resolveWorker(path: string): string };

/**
 * A worker of its own for a comparison: hours of a track must not hold up what is typed. The bundler's own call, since with what is not
 * used shaken out of the graph it loses `new Worker(new URL(…))` between its two passes.
 */
export const comparisonWorker = (): Worker => new Worker(require.unstable_resolveWorker('./comparison.worker'));
