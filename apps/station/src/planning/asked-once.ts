import type { Queries } from '../store/database';

/** Reads within one question to the planner: what was asked once with the same parameters is not asked again. The rows are shared: nobody changes them. */
export function askedOnce(queries: Queries): Queries {
  const answers = new Map<string, Promise<unknown>>();
  const once = {
    query(sql: string, parameters?: unknown[]) {
      const key = JSON.stringify([sql, parameters]);
      const answer = answers.get(key) ?? queries.query(sql, parameters);
      answers.set(key, answer);
      return answer;
    },
  } as Queries;
  reckoned.set(once, new Map());
  return once;
}

/** What was reckoned within one question, by its reads and a key. */
const reckoned = new WeakMap<Queries, Map<string, Promise<unknown>>>();

/** What is reckoned from the reads of one question is not reckoned again within it; shared like the rows. Of other reads it is each time. */
export function reckonedOnce<T>(queries: Queries, key: string, reckon: () => Promise<T>): Promise<T> {
  const known = reckoned.get(queries);
  const answer = (known?.get(key) as Promise<T> | undefined) ?? reckon();
  known?.set(key, answer);
  return answer;
}
