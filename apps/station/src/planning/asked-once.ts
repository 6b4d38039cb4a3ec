import type { Queries } from '../store/database';

/** Reads within one question to the planner: what was asked once with the same parameters is not asked again. The rows are shared: nobody changes them. */
export function askedOnce(queries: Queries): Queries {
  const answers = new Map<string, Promise<unknown>>();
  return {
    query(sql, parameters) {
      const key = JSON.stringify([sql, parameters]);
      const answer = answers.get(key) ?? queries.query(sql, parameters);
      answers.set(key, answer);
      return answer;
    },
  } as Queries;
}
