import type { ErrorRequestHandler, Request, Response } from 'express';
import type { ZodError } from 'zod';
import { type z } from 'zod';
import type { Problem } from '@tombolo/contract';
import { ProblemError } from '../problem-error';
import { FAILURE_WORDS, storeFailure } from '../store/failure';

export function sendProblem(response: Response, error: ProblemError): void {
  const body: Problem = {
    type: `tombolo:${error.code}`,
    title: error.title,
    status: error.status,
    detail: error.detail,
    ...(error.fields && { fields: error.fields }),
  };
  response.status(error.status).type('application/problem+json').send(JSON.stringify(body));
}

/** Reads a request part through its schema; faults become a problem that names the fields. */
export function read<T extends z.ZodType>(schema: T, value: unknown): z.output<T> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  throw invalid(result.error);
}

function invalid(error: ZodError): ProblemError {
  const fields: Record<string, string> = {};
  for (const issue of error.issues) fields[issue.path.join('.') || 'request'] ??= issue.message;
  const detail = Object.entries(fields)
    .map(([field, reason]) => `${field}: ${reason}`)
    .join('; ');
  return new ProblemError(422, 'invalid', 'Something in it does not fit', detail, fields);
}

/** The last handler: every error leaves as problem details, and none tells of our inside. */
export const problemHandler =
  (log: (message: string) => void): ErrorRequestHandler =>
  (error: unknown, request: Request, response: Response, next) => {
    if (response.headersSent) return next(error);
    if (error instanceof ProblemError) return sendProblem(response, error);
    const status = (error as { status?: unknown }).status;
    if (typeof status === 'number' && status >= 400 && status < 500) {
      const message = (error as Error).message;
      return sendProblem(response, new ProblemError(status, 'request', 'The request cannot be read', message));
    }
    const failure = storeFailure(error);
    if (failure === 'data')
      return sendProblem(
        response,
        new ProblemError(
          422,
          'data',
          'Something in it cannot be stored',
          'A value is out of range or holds a character that no text may hold. Nothing was changed.',
        ),
      );
    if (failure === 'away' || failure === 'full')
      return sendProblem(
        response,
        new ProblemError(
          503,
          'not-storing',
          'The station does not store at present',
          request.method === 'GET'
            ? `Reason: ${FAILURE_WORDS[failure]}. It is loaded again when the station stores again.`
            : `Reason: ${FAILURE_WORDS[failure]}. What you entered is kept here; try again when the station stores again.`,
        ),
      );
    log(`request failed: ${(error as Error).stack ?? String(error)}`);
    sendProblem(
      response,
      new ProblemError(
        500,
        'internal',
        'The station failed at this',
        'Whether something was changed is not certain: look before you try again. The station’s own log tells more.',
      ),
    );
  };
