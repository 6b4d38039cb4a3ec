import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BearerView } from '@tombolo/contract';
import { planningRoutes } from '@tombolo/contract/routes/planning';
import { ask } from '../../../live/ask';
import { pathsOf } from './plan';

/** What is heard meanwhile changes it. */
const RENEWED_MS = 60_000;

/** Paths for what goes to everybody, each with how many would hear it, and the one to begin with: what is enough, or the usual one. */
export function usePaths(modem: BearerView | undefined) {
  const bearerId = modem?.id ?? '';
  const { data } = useQuery({
    queryKey: ['audience', bearerId],
    queryFn: () => ask(planningRoutes.audience, { query: { bearerId } }),
    enabled: bearerId !== '',
    refetchInterval: RENEWED_MS,
  });
  // What a form began with stays, though it be reckoned otherwise meanwhile: nothing changes under the hand of whoever presses.
  const [began, setBegan] = useState<{ bearerId: string; path: string | null } | null>(null);
  if (data && began?.bearerId !== bearerId) setBegan({ bearerId, path: data.enough?.join(',') ?? null });
  const paths = pathsOf(modem, data);
  return { paths, usual: (began?.bearerId === bearerId ? began.path : null) ?? paths[0]?.id ?? '' };
}
