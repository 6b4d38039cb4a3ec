import type { LiveEvent } from '@tombolo/contract';
import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { followFeed, useConnection } from './feed';
import { itemKeys, renewItems } from './item-lists';
import { packetKeys, renewPackets } from './packet-lists';
import { forgetTrails } from './trails';

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
export const AHEAD_MS = 1500;
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
