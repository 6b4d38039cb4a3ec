import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { NO_FILTER, type StationFilter } from './filter';

/** What the chart draws besides stations. */
export const CHART_LAYERS = [
  { id: 'trails', title: 'Trails', hint: 'Where stations came from in the last hours.' },
  { id: 'links', title: 'Links heard', hint: 'Who heard whom by radio, as far as paths prove it.' },
  { id: 'rings', title: 'Range rings', hint: 'Around your own position.' },
  { id: 'graticule', title: 'Graticule', hint: 'Parallels and meridians.' },
  { id: 'locators', title: 'Locator grid', hint: 'Maidenhead squares.' },
] as const;
export type ChartLayer = (typeof CHART_LAYERS)[number]['id'];

export interface MapPoint {
  readonly latitude: number;
  readonly longitude: number;
}

interface ChartStore {
  readonly filter: StationFilter;
  readonly order: 'newest' | 'nearest';
  readonly phoneShows: 'map' | 'list';
  readonly layers: Readonly<Record<ChartLayer, boolean>>;
  /** Maps of the operator that are switched off. */
  readonly hiddenMaps: readonly string[];
  readonly trailHours: number;
  /** Points of a measurement under way; null when nothing is measured. */
  readonly measured: readonly MapPoint[] | null;
  /** Whom the chart follows: a station, ourselves (`own`), or nobody. */
  readonly follow: string | null;
  readonly change: (change: Partial<Omit<ChartStore, 'change'>>) => void;
}

/** The state of the chart; what is a matter of taste survives a reload. */
export const useChart = create<ChartStore>()(
  persist(
    (set) => ({
      filter: NO_FILTER,
      order: 'newest',
      phoneShows: 'map',
      layers: { trails: true, links: false, rings: true, graticule: true, locators: false },
      hiddenMaps: [],
      trailHours: 6,
      measured: null,
      follow: null,
      change: (change) => set(change),
    }),
    {
      name: 'tombolo-chart',
      storage: createJSONStorage(() => localStorage),
      partialize: ({ order, layers, hiddenMaps, trailHours, phoneShows }) => ({
        order,
        layers,
        hiddenMaps,
        trailHours,
        phoneShows,
      }),
    },
  ),
);

/** Of how many hours trails are shown; null where none are. */
export const hoursOfTrails = ({ layers, trailHours }: Pick<ChartStore, 'layers' | 'trailHours'>): number | null =>
  layers.trails ? trailHours : null;
