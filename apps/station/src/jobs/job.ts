/** One thing that is done by the clock. */
export interface JobKind {
  readonly name: string;
  /** An occurrence is due whenever so much time of the station's clock has passed, counted from 1970. */
  readonly everyMs: number;
  /**
   * Occurrences that nobody was there for: the last is done late; of the others a record is kept that they were missed, or none where
   * they mean nothing.
   */
  readonly missed: 'recorded' | 'forgotten';
  /** Does it; may be done again when a process was killed in the middle. Gives what came of it, in words. */
  run(occurrence: Occurrence): Promise<string | undefined>;
}

export interface Occurrence {
  readonly dueAt: Date;
  /** True when the process should end it soon. */
  readonly stopping: () => boolean;
}

/** When the last occurrence up to a time was due. */
export const lastDueMs = (everyMs: number, nowMs: number): number => Math.floor(nowMs / everyMs) * everyMs;
