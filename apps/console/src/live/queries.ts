import type { ItemDetail, ReadingsView, StationView } from '@tombolo/contract';
import {
  QueryClient,
  useInfiniteQuery,
  useMutation,
  usePrefetchQuery,
  useQueries,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, type HeardQuery } from './api';
import { itemKeys, laterItem } from './item-lists';
import { AHEAD_MS } from './live-feed';
import { keepingRows, packetKeys, packetsBefore, type PacketPages } from './packet-lists';
import { trailsQuery } from './trails';

export const createClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      // The station may be reachable while the browser believes to be offline: it is on the same machine.
      queries: { retry: 1, staleTime: 30_000, refetchOnWindowFocus: true, networkMode: 'always' },
      mutations: { networkMode: 'always' },
    },
  });

export const useSettings = () => useQuery({ queryKey: ['settings'], queryFn: api.settings });
/** A receiver says something new every second or two. */
export const usePositionNow = () =>
  useQuery({ queryKey: ['position'], queryFn: api.positionNow, refetchInterval: 3000 });
export const useBeaconNow = () => useQuery({ queryKey: ['beacon'], queryFn: api.beaconNow, refetchInterval: 5000 });
const itemQuery = (id: string) => ({
  queryKey: itemKeys.one(id),
  queryFn: () => api.item(id),
  // An answer that was overtaken by a later state is let go.
  structuralSharing: (shown: unknown, item: unknown) => laterItem(shown as ItemDetail | undefined, item as ItemDetail),
});
export const useItem = (id: string) => useQuery(itemQuery(id));
/** Those of some items that are there already. */
export const useItemsNamed = (ids: readonly string[]): ItemDetail[] =>
  useQueries({
    queries: ids.map(itemQuery),
    combine: (found) => found.flatMap(({ data }) => data ?? []),
  });
export const usePacket = (id: string) => useQuery({ queryKey: ['packet', id], queryFn: () => api.packet(id) });

/** Rows that changed take the place of those before; the last heard come first. */
export function mergeStations(before: readonly StationView[], changed: readonly StationView[]): StationView[] {
  if (changed.length === 0) return [...before];
  const fresh = new Map(changed.map((station) => [station.call, station]));
  const kept = before.filter((station) => !fresh.has(station.call));
  return [...changed, ...kept].sort((a, b) => (a.lastAt < b.lastAt ? 1 : a.lastAt > b.lastAt ? -1 : 0));
}

/** All stations heard. After the first time only what changed is asked for, so that a flood costs little. */
const stationsQuery = (client: QueryClient) => ({
  queryKey: ['stations'],
  // Comparing thousands of rows field by field would take longer than drawing them.
  structuralSharing: false,
  queryFn: async (): Promise<StationView[]> => {
    const before = client.getQueryData<StationView[]>(['stations']);
    if (!before || before.length === 0) return api.stations();
    const newest = before.reduce((last, { changedAt }) => (changedAt > last ? changedAt : last), '');
    return mergeStations(before, await api.stations(newest));
  },
});
export const useStations = () => useQuery(stationsQuery(useQueryClient()));

/** What a chart shows is asked for before it is built, so that the station answers meanwhile. */
export function useChartAhead(trailHours: number | null): void {
  const client = useQueryClient();
  usePrefetchQuery(stationsQuery(client));
  usePrefetchQuery<unknown>(trailHours === null ? stationsQuery(client) : trailsQuery(client, trailHours));
}
/**
 * The stations are wanted by several places, their trails by the chart: both are loaded when the first screen has come to rest, the trails
 * behind the stations, by whose newest change it is told later what to ask for.
 * @param hoursOfTrails of how many hours trails are shown, null for none; asked then
 */
export function useStationsAhead(hoursOfTrails: () => Promise<number | null>): void {
  const client = useQueryClient();
  useEffect(() => {
    const load = async () => {
      await client.prefetchQuery(stationsQuery(client));
      const hours = await hoursOfTrails().catch(() => null);
      if (hours !== null) await client.prefetchQuery(trailsQuery(client, hours));
    };
    const timer = setTimeout(() => void load(), AHEAD_MS);
    return () => clearTimeout(timer);
  }, [client, hoursOfTrails]);
}

export const useStation = (call: string) => useQuery({ queryKey: ['station', call], queryFn: () => api.station(call) });
export const useHeardLinks = (enabled = true) =>
  useQuery({ queryKey: ['heard links'], queryFn: api.heardLinks, enabled });
export const useReadings = (kind: ReadingsView['kind'], hours: number) =>
  useQuery({ queryKey: ['readings', kind, hours], queryFn: () => api.readings(kind, hours) });
export const useWatches = () => useQuery({ queryKey: ['watches'], queryFn: api.watches });
export const useAlarms = () => useQuery({ queryKey: ['alarms'], queryFn: api.alarms });
export const usePeople = () => useQuery({ queryKey: ['people'], queryFn: api.people });
export const useBearers = () => useQuery({ queryKey: ['bearers'], queryFn: api.bearers, refetchInterval: 15_000 });
export const useHold = (held: boolean) =>
  useQuery({ queryKey: ['hold'], queryFn: api.hold, refetchInterval: held ? 2000 : false, enabled: held });
export const useKept = () => useQuery({ queryKey: ['kept'], queryFn: api.kept, refetchInterval: 30_000 });
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
  useInfiniteQuery(paged(itemKeys.search(text), (before) => api.items({ text, before, limit: 100 })));
/** All that passed with somebody, over every bearer. */
export const useConversation = (who: string, text = '') =>
  useInfiniteQuery(
    paged(itemKeys.conversation(who, text), (before) => api.items({ with: who, text, before, limit: 100 })),
  );
/** What went out, or waits to, and belongs to no item. */
export const useTransmissions = () =>
  useInfiniteQuery(paged(['transmissions'], (before) => api.transmissions({ before, limit: 50 })));
/** What needs somebody or is on its way, however old. */
export const useOpenItems = () => useQuery({ queryKey: itemKeys.open, queryFn: api.openItems });
export const usePackets = (query: HeardQuery) =>
  useInfiniteQuery({
    ...paged(packetKeys.of(query), (before) => packetsBefore(query, before)),
    structuralSharing: (before, now) => keepingRows(before as PacketPages | undefined, now as PacketPages),
  });
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
