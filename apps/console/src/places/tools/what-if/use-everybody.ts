import { useInfiniteQuery } from '@tanstack/react-query';
import type { EverybodyView, Reliance } from '@tombolo/contract';
import { planningRoutes } from '@tombolo/contract/routes/planning';
import { useEffect, useMemo } from 'react';
import { ask } from '../../../live/ask';

type Everybody = Pick<EverybodyView, 'people' | 'of' | 'relies'>;

/** Ways change with what is heard, slowly. */
const STALE_MS = 60_000;

/** The ways to everybody with something thought off, some people after the others until all are there; null asks for nothing. */
export function useEverybody(off: readonly string[] | null) {
  // In whatever order it was thought, it is the same.
  const text = off === null ? '' : [...off].sort().join();
  const isAsked = off !== null;
  const { data, error, isError, hasNextPage, isFetching, fetchNextPage, refetch } = useInfiniteQuery({
    queryKey: ['everybody', text],
    queryFn: ({ pageParam: from }) => ask(planningRoutes.everybody, { query: { off: text, from } }),
    initialPageParam: 0,
    getNextPageParam: ({ of, people }: EverybodyView, _, from: number) =>
      people.length > 0 && from + people.length < of ? from + people.length : undefined,
    staleTime: STALE_MS,
    enabled: isAsked,
  });
  useEffect(() => {
    // Two that ask the same share what is on its way.
    if (isAsked && hasNextPage && !isFetching && !isError) void fetchNextPage({ cancelRefetch: false });
  }, [isAsked, hasNextPage, isFetching, isError, fetchNextPage]);
  const view = useMemo(() => (data ? together(data.pages) : null), [data]);
  return {
    view,
    isWhole: view !== null && !hasNextPage,
    // What is there stays when it could not be asked again: the banner above says that it may be old.
    error: isError && (data === undefined || hasNextPage) ? error : null,
    again: () => void (hasNextPage && data ? fetchNextPage() : refetch()),
  };
}

/** What was told of some people and of others, as one. */
export function together(pages: readonly Everybody[]): Everybody {
  const relies = new Map<string, Reliance>();
  for (const one of pages.flatMap((page) => page.relies))
    relies.set(one.id, { ...one, needed: [...(relies.get(one.id)?.needed ?? []), ...one.needed] });
  return {
    of: pages.at(-1)?.of ?? 0,
    people: pages.flatMap(({ people }) => people),
    relies: [...relies.values()].sort((a, b) => b.needed.length - a.needed.length || (a.label < b.label ? -1 : 1)),
  };
}
