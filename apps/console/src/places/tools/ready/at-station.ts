import { useQuery } from '@tanstack/react-query';
import type { NewCheckRun, NewOwnCause } from '@tombolo/contract';
import { readyRoutes } from '@tombolo/contract/routes/ready';
import type { OwnCause } from '@tombolo/core';
import { ask } from '../../../live/ask';

/** What the station sees changes while somebody tries things. */
const SEEN_EVERY_MS = 4000;

/** What the station knows of ready checks. */
export const readyAtStation = {
  keepRun: (body: NewCheckRun) => ask(readyRoutes.keepCheckRun, { body }),
  keepCause: ({ id, ...body }: NewOwnCause & { id: string }) => ask(readyRoutes.keepOwnCause, { params: { id }, body }),
  removeCause: ({ id }: OwnCause) => ask(readyRoutes.removeOwnCause, { params: { id } }),
};

export const useSeen = () =>
  useQuery({ queryKey: ['seen'], queryFn: () => ask(readyRoutes.seen, {}), refetchInterval: SEEN_EVERY_MS });
export const useCheckRuns = () => useQuery({ queryKey: ['check runs'], queryFn: () => ask(readyRoutes.checkRuns, {}) });
export const useOwnCauses = () => useQuery({ queryKey: ['own causes'], queryFn: () => ask(readyRoutes.ownCauses, {}) });
