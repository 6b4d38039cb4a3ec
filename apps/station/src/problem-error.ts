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
