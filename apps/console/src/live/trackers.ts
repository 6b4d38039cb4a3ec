import { useQuery } from '@tanstack/react-query';
import { trackerRoutes } from '@tombolo/contract/routes/trackers';
import { ask } from './ask';

const EVERY_MS = 10_000;

/** Units of the feed and nodes of the mesh, with where they were last. */
export const useTrackers = () =>
  useQuery({
    queryKey: ['trackers'],
    queryFn: () => ask(trackerRoutes.trackers, {}),
    refetchInterval: EVERY_MS,
  });
