import type { StationView, TrailView } from '@tombolo/contract';
import { useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { api } from './api';

/** Trails as they were loaded, and what is needed to ask for those alone that changed since. */
export interface Trails {
  readonly list: readonly TrailView[];
  /** The newest change of a station that was known when they were asked for; null for all to be asked for anew. */
  readonly until: string | null;
  readonly wholeAtMs: number;
}

/** Points leave the window at its old end, which no change tells: the whole is loaded this often. */
const WHOLE_EVERY_MS = 5 * 60_000;
/** What is heard waits this long at most before it is stored, unless the station says that it does not store. */
const OVERLAP_MS = 2 * 60_000;

/** Trails that changed take the place of those before. */
export function mergeTrails(before: readonly TrailView[], changed: readonly TrailView[]): readonly TrailView[] {
  if (changed.length === 0) return before;
  const fresh = new Set(changed.map(({ call }) => call));
  return [...before.filter(({ call }) => !fresh.has(call)), ...changed];
}

const newestChange = (stations: readonly StationView[] | undefined): string | null =>
  stations && stations.length > 0
    ? stations.reduce((last, { changedAt }) => (changedAt > last ? changedAt : last), '')
    : null;

/** How often everything was forgotten, so that a load which was under way meanwhile is not taken for whole either. */
const forgotten = new WeakMap<QueryClient, number>();

/** The next load: of all, or of what changed since the last one. */
export async function loadTrails(client: QueryClient, hours: number, nowMs: number): Promise<Trails> {
  const before = client.getQueryData<Trails>(['trails', hours]);
  const newest = newestChange(client.getQueryData<StationView[]>(['stations']));
  const times = forgotten.get(client);
  const until = () => (forgotten.get(client) === times ? (newest ?? before?.until ?? null) : null);
  if (!before || before.until === null || nowMs - before.wholeAtMs > WHOLE_EVERY_MS) {
    const list = await api.trails(hours);
    return { list, until: until(), wholeAtMs: nowMs };
  }
  const since = new Date(Date.parse(before.until) - OVERLAP_MS).toISOString();
  const list = mergeTrails(before.list, await api.trails(hours, since));
  return { list, until: until(), wholeAtMs: before.wholeAtMs };
}

/** From now on no trail that was loaded is taken for the whole truth: an import or what was stored late reaches into the past. */
export function forgetTrails(client: QueryClient): void {
  forgotten.set(client, (forgotten.get(client) ?? 0) + 1);
  client.setQueriesData<Trails>({ queryKey: ['trails'] }, (known) => known && { ...known, until: null });
}

const listOf = ({ list }: Trails): readonly TrailView[] => list;

export const trailsQuery = (client: QueryClient, hours: number) => ({
  queryKey: ['trails', hours],
  queryFn: () => loadTrails(client, hours, Date.now()),
  // Comparing some hundred thousand numbers would take longer than drawing them.
  structuralSharing: false,
});

/** Where stations came from in the last hours. */
export const useTrails = (hours: number, enabled = true) =>
  useQuery({ ...trailsQuery(useQueryClient(), hours), select: listOf, enabled });
