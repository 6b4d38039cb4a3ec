import { carriageOf } from '@tombolo/contract';
import { PATH_SCHOOLS, pathHops } from '@tombolo/core';
import type { PlanningContext } from './context';
import { leastOfSurest } from './nearly-surest';
import { crossingsTo } from './propose';

const isUsual = (path: readonly string[]): boolean => PATH_SCHOOLS.some((school) => school.path.join() === path.join());

/**
 * The path of something that goes out by itself, and once, to somebody who was just heard: over no more digipeaters than the bearer's own
 * path. Null where nothing is known, or where the operator set a path of their own: it goes as it was queued.
 */
export async function pathOfAnswer(
  context: PlanningContext,
  { bearerId, to }: { readonly bearerId: string; readonly to: string },
): Promise<readonly string[] | null> {
  const bearer = context.bearers.find(({ id }) => id === bearerId);
  const carriage = bearer && carriageOf(bearer.config);
  if (carriage?.what !== 'packets' || !isUsual(carriage.path)) return null;
  const most = pathHops(carriage.path);
  const candidates = await crossingsTo(
    context,
    { to, text: '', precedence: 'routine', withinMin: null },
    { bearerId, address: to, times: 1 },
  );
  const paths = candidates.flatMap(({ send: { way }, arrives: { chance }, airS }) =>
    way.by === 'packets' && pathHops(way.path) <= most ? [{ path: way.path, chance, airS }] : [],
  );
  // Of those that come to the same the shortest: digipeaters of which nobody knows would repeat a longer one too.
  paths.sort((a, b) => pathHops(a.path) - pathHops(b.path));
  return leastOfSurest(paths, (one) => one)?.path ?? null;
}
