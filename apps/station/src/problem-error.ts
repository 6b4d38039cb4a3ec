/** An error that the operator is told: what happened, what was kept, what to do next. */
export class ProblemError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly title: string,
    readonly detail: string,
    readonly fields?: Record<string, string>,
  ) {
    super(`${title}: ${detail}`);
  }
}

/** Of two who change the same, the second is told. */
export const changedMeanwhile = () =>
  new ProblemError(
    409,
    'changed-meanwhile',
    'Somebody changed it meanwhile',
    'What is shown is older than what is kept. Nothing was changed: look at it again.',
  );
