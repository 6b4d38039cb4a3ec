import { pathOf, problem, type AnswerOf, type AskedOf, type Route } from '@tombolo/contract';
import type { z } from 'zod';

const BASE = '/api/v1';

/** An answer of the station that says what is wrong, in words for the operator. */
export class StationProblem extends Error {
  constructor(
    readonly title: string,
    detail: string,
    readonly code: string,
    readonly fields: Readonly<Record<string, string>> = {},
  ) {
    super(detail);
  }
}

/** Pages are loaded again when the connection is back; what somebody pressed is not done again by itself. */
const AWAY = {
  read: 'The station does not answer. This is loaded again by itself when it is back.',
  change:
    'The station does not answer: this was not done, or nobody knows whether it was. What you entered is kept here; press again when it is back.',
} as const;

/** No page waits longer for an answer. */
const WITHIN_MS = 30_000;
const LATE =
  'It did not answer within 30 s. Whether a change was made is not certain: look before you try again. What you entered is kept here.';

type Query = Readonly<Record<string, string | number | boolean | null | undefined>>;
interface Asked {
  readonly params?: Readonly<Record<string, string>>;
  readonly query?: Query;
  readonly body?: unknown;
}

/** Where a route of the contract is, with what is asked of it. */
export const urlOf = ({ path }: Route, { params, query }: Asked): string =>
  `${BASE}${pathOf(path, params)}${query ? queryOf(query) : ''}`;

/** Asks by a route of the contract: what goes out has its types, what comes back goes through its schema. */
export async function ask<R extends Route>(
  route: R,
  asked: AskedOf<R>,
  { octets, withinMs = WITHIN_MS }: { octets?: Blob; withinMs?: number | null } = {},
): Promise<AnswerOf<R>> {
  const { body } = asked as Asked;
  let answer: Response;
  let told: unknown;
  const bound = new AbortController();
  const late = withinMs === null ? undefined : setTimeout(() => bound.abort(), withinMs);
  try {
    answer = await fetch(urlOf(route, asked as Asked), {
      ...(route.method !== 'get' && { method: route.method.toUpperCase() }),
      ...(octets && { headers: { 'content-type': 'application/octet-stream' }, body: octets }),
      ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
      signal: bound.signal,
    });
    told = answer.status === 204 ? null : await answer.json().catch(() => undefined);
    if (bound.signal.aborted) throw new Error('too late');
  } catch {
    if (bound.signal.aborted) throw new StationProblem('The station takes too long', LATE, 'late');
    throw new StationProblem('No connection to the station', AWAY[route.method === 'get' ? 'read' : 'change'], 'away');
  } finally {
    clearTimeout(late);
  }
  return readAnswer(route, answer.status, told);
}

function readAnswer<R extends Route>({ answer }: R, status: number, body: unknown): AnswerOf<R> {
  if (status >= 400) {
    const told = problem.safeParse(body);
    if (told.success)
      throw new StationProblem(
        told.data.title,
        told.data.detail,
        told.data.type.replace(/^tombolo:/, ''),
        told.data.fields,
      );
    throw new StationProblem('The station failed', `It answered ${status}.`, 'status');
  }
  if (answer === null || typeof answer === 'string') return undefined as AnswerOf<R>;
  const parsed = (answer as z.ZodType).safeParse(body);
  if (!parsed.success)
    throw new StationProblem(
      'The station speaks another version',
      'Reload this page; if it stays, restart the station.',
      'version',
    );
  return parsed.data as AnswerOf<R>;
}

const queryOf = (parameters: Query): string => {
  const query = new URLSearchParams();
  for (const [key, value] of Object.entries(parameters))
    if (value !== undefined && value !== null && value !== '') query.set(key, String(value));
  const text = query.toString();
  return text ? `?${text}` : '';
};

/** Sends a file and tells how far it is; what the station answers goes through its schema. */
export function upload<R extends Route>(
  route: R,
  asked: AskedOf<R>,
  file: Blob,
  progress: (share: number) => void,
): Promise<AnswerOf<R>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', urlOf(route, asked as Asked));
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) progress(event.loaded / event.total);
    };
    request.onerror = () => reject(new StationProblem('No connection to the station', AWAY.change, 'away'));
    request.onload = () => {
      try {
        resolve(readAnswer(route, request.status, JSON.parse(request.responseText)));
      } catch (error) {
        reject(error as Error);
      }
    };
    request.send(file);
  });
}
