import { useQuery } from '@tanstack/react-query';
import type { OwnObject, OwnObjectChange } from '@tombolo/contract';
import { ownObjectRoutes } from '@tombolo/contract/routes/own-objects';
import { ask } from '../../../live/ask';

/** How often each was sent is looked up again. */
const EVERY_MS = 10_000;

export const objectsAtStation = {
  keep: ({ id, ...body }: OwnObjectChange & { id: string }) =>
    ask(ownObjectRoutes.keepOwnObject, { params: { id }, body }),
  end: ({ id, revision }: Pick<OwnObject, 'id' | 'revision'>) =>
    ask(ownObjectRoutes.endOwnObject, { params: { id }, body: { revision } }),
};
export const useOwnObjects = () =>
  useQuery({
    queryKey: ['own objects'],
    queryFn: () => ask(ownObjectRoutes.ownObjects, {}),
    refetchInterval: EVERY_MS,
  });
