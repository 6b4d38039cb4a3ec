import { useQuery } from '@tanstack/react-query';
import { reachRoutes } from '@tombolo/contract/routes/reach';
import type { Position } from '@tombolo/core';
import { ask } from '../../../live/ask';

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
