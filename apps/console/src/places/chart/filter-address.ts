import { router, useLocalSearchParams } from 'expo-router';
import { useEffect } from 'react';
import { z } from 'zod';
import { useChart } from './chart-store';
import { KIND_FILTERS, NO_FILTER, type StationFilter } from './filter';

/** How a filter stands in an address; what is no filter there is none here. */
const addressed = z.object({
  text: z.string().catch(''),
  kind: z.enum(KIND_FILTERS.map(({ id }) => id)).catch(NO_FILTER.kind),
  km: z.coerce.number().positive().nullable().catch(null),
  min: z.coerce.number().int().positive().nullable().catch(null),
  bearer: z.string().catch(''),
  hidden: z.literal('yes').nullable().catch(null),
});

export function filterOf(params: Readonly<Record<string, unknown>>): StationFilter {
  const { text, kind, km, min, bearer, hidden } = addressed.parse(params);
  return { text, kind, withinKm: km, withinMin: min, bearerId: bearer, hidden: hidden !== null };
}

/** What the address says of a filter; what hides nothing is left out of it. */
export const paramsOf = (filter: StationFilter): Record<keyof z.infer<typeof addressed>, string | undefined> => ({
  text: filter.text || undefined,
  kind: filter.kind === NO_FILTER.kind ? undefined : filter.kind,
  km: filter.withinKm === null ? undefined : String(filter.withinKm),
  min: filter.withinMin === null ? undefined : String(filter.withinMin),
  bearer: filter.bearerId || undefined,
  hidden: filter.hidden ? 'yes' : undefined,
});

const same = (a: StationFilter, b: StationFilter): boolean =>
  JSON.stringify(paramsOf(a)) === JSON.stringify(paramsOf(b));
const REST_MS = 300;

/** The filter that the address tells is the one that is shown; one that is changed is written into it. */
export function useAddressedFilter(): void {
  const told = filterOf(useLocalSearchParams());
  const { filter, change } = useChart();
  useEffect(() => {
    // An address without a filter, such as that of the place, takes the one that was set before.
    if (!same(told, NO_FILTER)) change({ filter: told });
    // Only what the address told when the place was opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const differs = !same(told, filter);
  useEffect(() => {
    if (!differs) return;
    const timer = setTimeout(() => router.setParams(paramsOf(filter)), REST_MS);
    return () => clearTimeout(timer);
  }, [differs, filter]);
}
