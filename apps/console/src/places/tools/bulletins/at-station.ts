import { useQuery } from '@tanstack/react-query';
import type { OwnBulletinChange, OwnBulletinView } from '@tombolo/contract';
import { bulletinRoutes } from '@tombolo/contract/routes/bulletins';
import { ask } from '../../../live/ask';

/** How often each was heard, and sent, is looked up again. */
const EVERY_MS = 30_000;

export const bulletinsAtStation = {
  keep: ({ id, ...body }: OwnBulletinChange & { id: string }) =>
    ask(bulletinRoutes.keepOwnBulletin, { params: { id }, body }),
  end: ({ id, revision }: Pick<OwnBulletinView, 'id' | 'revision'>) =>
    ask(bulletinRoutes.endOwnBulletin, { params: { id }, body: { revision } }),
};
export const useOwnBulletins = () =>
  useQuery({
    queryKey: ['bulletins', 'own'],
    queryFn: () => ask(bulletinRoutes.ownBulletins, {}),
    refetchInterval: EVERY_MS,
  });
export const useHeardBulletins = () =>
  useQuery({
    queryKey: ['bulletins', 'heard'],
    queryFn: () => ask(bulletinRoutes.heardBulletins, {}),
    refetchInterval: EVERY_MS,
  });
