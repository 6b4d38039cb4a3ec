import { allRoutes, liveEvent, problem, type Route } from '@tombolo/contract';
import { z } from 'zod';

/** The live feed, which no request reads: its connection is upgraded (RFC 6455). */
const LIVE = {
  summary: 'The live feed (WebSocket), resumed with ?after=',
  parameters: [{ name: 'after', in: 'query', required: false, schema: { type: 'integer', minimum: 0 } }],
};

const schemaOf = (schema: z.ZodType, io: 'input' | 'output') => z.toJSONSchema(schema, { io, unrepresentable: 'any' });

const openPath = (path: string): string => path.replace(/:(\w+)/g, '{$1}');

/** OpenAPI 3.1, made from the routes of the contract. */
export function openApiDocument(): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const one of allRoutes) (paths[openPath(one.path)] ??= {})[one.method] = operationOf(one);
  paths['/live'] = {
    get: {
      ...LIVE,
      responses: {
        101: {
          description: 'events as JSON, one a message',
          content: { 'application/json': { schema: schemaOf(liveEvent, 'output') } },
        },
        default: PROBLEM,
      },
    },
  };
  return {
    openapi: '3.1.0',
    info: { title: 'Tombolo station', version: '1' },
    servers: [{ url: '/api/v1' }],
    paths,
  };
}

const PROBLEM = {
  description: 'a problem (RFC 9457)',
  content: { 'application/problem+json': { schema: schemaOf(problem, 'output') } },
};

function operationOf({ path, summary, query, body, answer, ...route }: Route): Record<string, unknown> {
  const parameters: Record<string, unknown>[] = [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  if (query) {
    const { properties = {}, required = [] } = schemaOf(query, 'input');
    for (const [name, schema] of Object.entries(properties))
      parameters.push({ name, in: 'query', required: required.includes(name), schema });
  }
  const success =
    answer === null
      ? { description: 'done' }
      : typeof answer === 'string'
        ? { description: 'a file', content: { [answer]: {} } }
        : { description: 'as asked', content: { 'application/json': { schema: schemaOf(answer, 'output') } } };
  return {
    summary,
    ...(parameters.length > 0 && { parameters }),
    ...(body && {
      requestBody: {
        required: true,
        content:
          body === 'octets'
            ? { 'application/octet-stream': {} }
            : { 'application/json': { schema: schemaOf(body, 'input') } },
      },
    }),
    responses: { [route.status ?? (answer === null ? 204 : 200)]: success, default: PROBLEM },
  };
}
