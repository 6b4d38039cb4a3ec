import type { ItemDetail, LiveEvent, ReadingsView, StationView } from '@tombolo/contract';
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
import { followFeed, useConnection } from './feed';
import { itemKeys, laterItem, renewItems } from './item-lists';
import { keepingRows, packetKeys, packetsBefore, renewPackets, type PacketPages } from './packet-lists';
import { forgetTrails, trailsQuery } from './trails';

export const createClient = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      // The station may be reachable while the browser believes to be offline: it is on the same machine.
      queries: { retry: 1, staleTime: 30_000, refetchOnWindowFocus: true, networkMode: 'always' },
      mutations: { networkMode: 'always' },
    },
  });

/** What an event makes stale. */
function staleAfter(event: LiveEvent): readonly (readonly unknown[])[] {
  switch (event.type) {
    case 'item':
      // The item itself takes its place in the lists (item-lists.ts).
      return [['relays', event.data.id], ['services', 'joined'], ['bulletins', 'heard'], ['bearers']];
    case 'transmission':
      return [['transmissions'], ['bearers']];
    case 'packet':
      // The lists of packets take what is new (packet-lists.ts).
      return [[...packetKeys.lists], ['stations'], ['station'], ['trails'], ['heard links'], ['readings'], ['bearers']];
    case 'failure':
      return [['failures'], ['bearers']];
    case 'bearer':
      return [['bearers']];
    case 'import':
      return [['imports'], ['packets'], ['stations'], ['trails'], ['heard links'], ['readings'], [...itemKeys.lists]];
    case 'settings':
      return [
        ['settings'],
        ['position'],
        ['beacon'],
        ['emergency'],
        ['repeating'],
        ['waypoints'],
        ['stations', 'all'],
        ['station'],
        ['relays'],
        ['hold'],
        ['bearers'],
      ];
    case 'session':
      return [['sessions', event.data.bearerId]];
    case 'offer':
      return [['offers', event.data.bearerId]];
    case 'mesh':
      return [['mesh nodes'], ['relays']];
    case 'rule':
      return [['rules']];
    case 'service':
      return [['services']];
    case 'tracker':
      return [['trackers']];
    case 'own bulletin':
      return [['bulletins'], ['transmissions']];
    case 'own object':
      return [['own objects'], ['transmissions']];
    case 'equipment':
      return [['equipment'], ['ticks', event.data.id]];
    case 'ready':
      return [['check runs'], ['own causes']];
    case 'person':
      return [['people'], ['relays']];
    case 'tactical name':
      return [['tactical names']];
    case 'station':
      return [['stations'], ['station', event.data.call]];
    case 'watch':
      return [['watches']];
    case 'alarm':
      return [['alarms'], ['watches']];
    case 'map':
      return [['maps']];
    case 'backup':
      return [['backups'], ['backup plan']];
    case 'storing':
      // Told at each connection too: what follows from it is decided by what was told before.
      return [];
    case 'reset':
      return [[]];
  }
}

/** When the first screen has come to rest. */
const AHEAD_MS = 1500;
/** By then the station tells a new connection all that changes. */
const JOINED_MS = 500;
/** Packets come in floods; what depends on them is loaded again at this pace, all else at the other. */
const PACKET_PACE_MS = 1000;
const PACE_MS = 300;

/** Loads again what events make stale, each kind at its own pace, the first at once. */
function createRenewal(client: QueryClient) {
  const items = new Map<string, number>();
  const lane = (paceMs: number) => {
    const stale = new Map<string, readonly unknown[]>();
    let timer: ReturnType<typeof setTimeout> | null = null;
    let lastAt = 0;
    const refresh = () => {
      timer = null;
      lastAt = Date.now();
      for (const key of stale.values()) {
        // Distances from a new place concern every station: the list is loaded whole.
        if (key[0] === 'packets' && paceMs === PACKET_PACE_MS) void renewPackets(client);
        else if (key[1] === 'all') void client.resetQueries({ queryKey: [key[0]] });
        // A load that is under way is let finish: under a flood it would otherwise never end.
        else void client.invalidateQueries({ queryKey: [...key] }, { cancelRefetch: false });
      }
      stale.clear();
      if (paceMs === PACE_MS && items.size > 0) {
        void renewItems(
          client,
          [...items].map(([id, revision]) => ({ id, revision })),
        );
        items.clear();
      }
    };
    return {
      add(keys: readonly (readonly unknown[])[]) {
        for (const key of keys) stale.set(JSON.stringify(key), key);
        timer ??= setTimeout(refresh, Math.max(0, lastAt + paceMs - Date.now()));
      },
      stop: () => {
        if (timer) clearTimeout(timer);
      },
    };
  };
  const lanes = { packet: lane(PACKET_PACE_MS), other: lane(PACE_MS) };
  return {
    because(event: LiveEvent) {
      if (event.type === 'item') items.set(event.data.id, event.data.revision);
      if (event.type === 'import' || event.type === 'reset') forgetTrails(client);
      lanes[event.type === 'packet' ? 'packet' : 'other'].add(staleAfter(event));
    },
    stop: () => {
      lanes.packet.stop();
      lanes.other.stop();
    },
  };
}

/** Keeps what is shown in step with the station. A flood of events refreshes each list a few times a second at most. */
export function useLiveFeed(): void {
  const client = useQueryClient();
  useEffect(() => {
    const renew = createRenewal(client);
    const stop = followFeed((event) => renew.because(event));
    let followed = false;
    let first: ReturnType<typeof setTimeout> | undefined;
    const cache = client.getQueryCache();
    const all = () => {
      forgetTrails(client);
      void client.invalidateQueries();
    };
    const allOf = (asked: ReadonlySet<unknown>) => {
      if (cache.findAll({ queryKey: ['trails'] }).some((query) => asked.has(query))) forgetTrails(client);
      void client.invalidateQueries({ predicate: (query) => asked.has(query) });
    };
    const unsubscribe = useConnection.subscribe((now, before) => {
      // What failed to load while the station could not store is loaded again.
      if (now.storing?.storing && before.storing && !before.storing.storing) all();
      if (!now.connected || before.connected) return;
      // What was changed while the connection was down shows when it is back.
      if (followed) all();
      // What was changed between the first answers and the first connection shows a moment later, so that no question is asked
      // twice before the first screen is there. Of what is asked for later every change is told.
      else
        first = setTimeout(() => {
          const asked = new Set(cache.getAll());
          first = setTimeout(() => allOf(asked), AHEAD_MS - JOINED_MS);
        }, JOINED_MS);
      followed = true;
    });
    return () => {
      clearTimeout(first);
      stop();
      unsubscribe();
      renew.stop();
    };
  }, [client]);
}

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

/** What a chart shows is asked for while it is still being built: its program takes as long to begin as the station to answer. */
export function useChartAhead(trailHours: number | null): void {
  const client = useQueryClient();
  usePrefetchQuery(stationsQuery(client));
  usePrefetchQuery<unknown>(trailHours === null ? stationsQuery(client) : trailsQuery(client, trailHours));
}
/** The stations are wanted by several places: they are loaded when the first screen has come to rest. */
export function useStationsAhead(): void {
  const client = useQueryClient();
  useEffect(() => {
    const timer = setTimeout(() => void client.prefetchQuery(stationsQuery(client)), AHEAD_MS);
    return () => clearTimeout(timer);
  }, [client]);
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
