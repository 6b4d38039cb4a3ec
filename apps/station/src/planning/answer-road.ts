import { carriageOf } from '@tombolo/contract';
import { isUsualPath, pathHops } from '@tombolo/core';
import type { PlanningContext } from './context';
import { firstOfLeast } from './nearly-surest';
import { crossingsTo } from './propose';

/**
 * The path of something that goes out by itself, and once, to somebody who was just heard over digipeaters: the one that takes least of the
 * channel until it has arrived, over no more digipeaters than the bearer's own path. Null where nothing is known, or where the operator set a
 * path of their own: it goes as it was queued.
 */
export async function pathOfAnswer(
  context: PlanningContext,
  { bearerId, to }: { readonly bearerId: string; readonly to: string },
): Promise<readonly string[] | null> {
  const bearer = context.bearers.find(({ id }) => id === bearerId);
  const carriage = bearer && carriageOf(bearer.config);
  if (carriage?.what !== 'packets' || !isUsualPath(carriage.path)) return null;
  const most = pathHops(carriage.path);
  const candidates = await crossingsTo(
    context,
    { to, text: '', precedence: 'routine', withinMin: null },
    { bearerId, address: to, times: 1 },
  );
  const paths = candidates.flatMap(({ send: { way }, arrives: { chance }, airS }) =>
    way.by === 'packets' && chance > 0 ? [{ path: way.path, hops: pathHops(way.path), chance, airS }] : [],
  );
  // Where it does not arrive they send again, as their packets ask for, and it is sent again.
  const theirHops = candidates.find(({ answer }) => answer?.known)?.answer?.hops;
  const againS = paths.find(({ hops }) => hops === theirHops)?.airS ?? Math.max(0, ...paths.map(({ airS }) => airS));
  // They come shortest first: of those that come to the same digipeaters of which nobody knows would repeat a longer one too.
  const best = firstOfLeast(
    paths.filter(({ hops }) => hops <= most),
    ({ chance, airS }) => (againS + airS) / chance,
  );
  return best?.path ?? null;
}
