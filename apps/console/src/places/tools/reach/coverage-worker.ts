declare const require: { unstable_resolveWorker(path: string): string };

/** A worker of its own: a million cells must not hold up what is typed. The bundler's own call, as for other workers. */
export const coverageWorker = (): Worker => new Worker(require.unstable_resolveWorker('./coverage.worker'));
