import { json, type Request, type Response, type Router } from 'express';
import type { AnswerOf, BodyOf, ParamsOf, QueryOf, Route } from '@tombolo/contract';
import type { z } from 'zod';
import { read } from './problem';

/** What came in by a route, each part read through the schema of the route. */
export interface Asked<R extends Route> {
  readonly params: ParamsOf<R>;
  readonly query: QueryOf<R>;
  readonly body: BodyOf<R>;
  /** For what is not JSON: files that come and go. */
  readonly request: Request;
  readonly response: Response;
}

/** An answer that is JSON already. */
export class Worded {
  constructor(readonly json: string) {}
}

/**
 * Serves a route of the contract: its parts go through its schemas, what the handler gives is its answer. A handler that sends a file itself
 * gives nothing.
 */
export function serve<R extends Route>(
  router: Router,
  route: R,
  handle: (asked: Asked<R>) => Promise<AnswerOf<R> | Worded> | AnswerOf<R>,
): void {
  const { body } = route;
  const readers = body === undefined || body === 'octets' ? [] : [json({ limit: route.bodyLimit ?? '100kb' })];
  router[route.method](route.path, ...readers, async (request: Request, response: Response) => {
    const part = (schema: z.ZodType | undefined, value: unknown) => (schema ? read(schema, value) : undefined);
    const answer = await handle({
      params: (route.params ? read(route.params, request.params) : request.params) as ParamsOf<R>,
      query: part(route.query, request.query) as QueryOf<R>,
      body: (body === 'octets' ? undefined : part(body, request.body)) as BodyOf<R>,
      request,
      response,
    });
    if (response.headersSent || response.writableEnded) return;
    if (route.answer === null) response.status(route.status ?? 204).end();
    else if (answer instanceof Worded) response.type('json').send(answer.json);
    else if (typeof route.answer !== 'string') response.status(route.status ?? 200).json(answer);
  });
}
