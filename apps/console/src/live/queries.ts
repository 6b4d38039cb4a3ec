import type { LiveEvent } from '@tombolo/contract';
import { QueryClient, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, type HeardQuery } from './api';
import { followFeed, useConnection } from './feed';

export const createClient = (): QueryClient =>
  new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 30_000, refetchOnWindowFocus: true } } });

/** What an event makes stale. */
function staleAfter(event: LiveEvent): readonly (readonly unknown[])[] {
  switch (event.type) {
    case 'item':
      return [['items'], ['item', event.data.id], ['relays', event.data.id], ['bearers']];
    case 'packet':
      return [['packets'], ['stations'], ['bearers']];
    case 'failure':
      return [['failures'], ['bearers']];
    case 'bearer':
      return [['bearers']];
    case 'import':
      return [['imports'], ['packets'], ['stations'], ['items']];
    case 'settings':
      return [['settings'], ['stations'], ['relays']];
    case 'session':
      return [['sessions', event.data.bearerId]];
    case 'offer':
      return [['offers', event.data.bearerId]];
    case 'mesh':
      return [['mesh nodes'], ['relays']];
    case 'rule':
      return [['rules']];
    case 'reset':
      return [[]];
  }
}

/** Keeps what is shown in step with the station. A flood of events refreshes each list a few times a second at most. */
export function useLiveFeed(): void {
  const client = useQueryClient();
  useEffect(() => {
    const stale = new Map<string, readonly unknown[]>();
    let timer: ReturnType<typeof setTimeout> | null = null;
    let lastAt = 0;
    const refresh = () => {
      timer = null;
      lastAt = Date.now();
      for (const key of stale.values()) void client.invalidateQueries({ queryKey: [...key] });
      stale.clear();
    };
    const stop = followFeed((event) => {
      for (const key of staleAfter(event)) stale.set(JSON.stringify(key), key);
      timer ??= setTimeout(refresh, Date.now() - lastAt > 300 ? 0 : 300);
    });
    // What was changed while the connection was down shows when it is back.
    const unsubscribe = useConnection.subscribe((now, before) => {
      if (now.connected && !before.connected) void client.invalidateQueries();
    });
    return () => {
      stop();
      unsubscribe();
      if (timer) clearTimeout(timer);
    };
  }, [client]);
}

export const useSettings = () => useQuery({ queryKey: ['settings'], queryFn: api.settings });
export const useItem = (id: string) => useQuery({ queryKey: ['item', id], queryFn: () => api.item(id) });
export const usePacket = (id: string) => useQuery({ queryKey: ['packet', id], queryFn: () => api.packet(id) });
export const useStations = () => useQuery({ queryKey: ['stations'], queryFn: api.stations });
export const useMeshNodes = () => useQuery({ queryKey: ['mesh nodes'], queryFn: api.meshNodes });
export const useOffers = (bearerId: string) =>
  useQuery({ queryKey: ['offers', bearerId], queryFn: () => api.offers(bearerId) });
export const useSessions = (bearerId: string) =>
  useQuery({ queryKey: ['sessions', bearerId], queryFn: () => api.sessions(bearerId) });
export const useRelays = (id: string, enabled: boolean) =>
  useQuery({ queryKey: ['relays', id], queryFn: () => api.relays(id), enabled });
export const useRules = () => useQuery({ queryKey: ['rules'], queryFn: api.rules });
export const useBearers = () => useQuery({ queryKey: ['bearers'], queryFn: api.bearers, refetchInterval: 15_000 });
export const useImports = () => useQuery({ queryKey: ['imports'], queryFn: api.imports });
export const useSimulation = () => useQuery({ queryKey: ['simulation'], queryFn: api.simulation, staleTime: 5000 });

interface Page<T> {
  rows: T[];
  next: string | null;
}

const paged = <T>(queryKey: readonly unknown[], load: (before: string | null) => Promise<Page<T>>) => ({
  queryKey,
  queryFn: ({ pageParam }: { pageParam: string | null }) => load(pageParam),
  initialPageParam: null as string | null,
  getNextPageParam: (page: Page<T>) => page.next,
});

export const useItems = (text = '') =>
  useInfiniteQuery(paged(['items', text], (before) => api.items({ text, before, limit: 100 })));
export const usePackets = (query: HeardQuery) =>
  useInfiniteQuery(paged(['packets', query], (before) => api.packets({ ...query, before, limit: 50 })));
export const useFailures = (importId?: string) =>
  useInfiniteQuery(paged(['failures', importId], (before) => api.failures({ importId, before, limit: 50 })));

/** A change at the station, after which some lists are loaded again. */
export function useChange<Input, Output>(change: (input: Input) => Promise<Output>, stale: readonly string[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => Promise.all(stale.map((key) => client.invalidateQueries({ queryKey: [key] }))),
  });
}
