import type { Request, RequestHandler } from 'express';
import { ProblemError } from '../problem-error';

/** Lets so many requests of a kind in at once; who comes on top is told to come again, and costs nothing. */
export function limitAtOnce(most: number, counts: (request: Request) => boolean): RequestHandler {
  let inside = 0;
  return (request, response, next) => {
    if (!counts(request)) return next();
    if (inside >= most) {
      response.setHeader('Retry-After', '1');
      // Nobody reads what still comes.
      response.setHeader('Connection', 'close');
      throw new ProblemError(
        503,
        'busy',
        'The station is busy',
        'It does as many of these at once as it can. Nothing was changed; try again in a moment.',
      );
    }
    inside++;
    response.once('close', () => inside--);
    next();
  };
}
