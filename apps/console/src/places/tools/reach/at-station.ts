import { useQuery } from '@tanstack/react-query';
import { reachRoutes } from '@tombolo/contract/routes/reach';
import type { Position } from '@tombolo/core';
import { ask } from '../../../live/ask';
import type { Area } from './area';

const inQuery = ({ latitude, longitude }: Position): string => `${latitude},${longitude}`;

/** The ground between two places; nothing is asked while one of them is not known. */
export function useProfile(from: Position | null, to: Position | null) {
  const query = from && to ? { from: inQuery(from), to: inQuery(to) } : null;
  return useQuery({
    queryKey: ['profile', query],
    queryFn: () => ask(reachRoutes.profile, { query: query! }),
    enabled: query !== null,
  });
}

/** The ground of an area; nothing is asked while there is none. It does not change while tiles do not, and is large: it is not kept long. */
export function useGround(area: Area | null) {
  return useQuery({
    queryKey: ['ground', area],
    queryFn: () => ask(reachRoutes.ground, { query: { ...area! } }),
    enabled: area !== null,
    staleTime: 60_000,
    gcTime: 60_000,
  });
}
