declare const require: { unstable_resolveWorker(path: string): string };

/** A worker of its own: every pair of a net over the ground between. The bundler's own call, as for other workers. */
export const whatIfWorker = (): Worker => new Worker(require.unstable_resolveWorker('./what-if.worker'));
