import type { HeardLink, MapView as OwnMap, StationView, TrailView } from '@tombolo/contract';
import { useEffect, useRef } from 'react';
import type { Look } from '../../../ui/lights';
import type { ChartLayer, MapPoint } from '../chart-store';
import { createChartView, type ChartView } from './chart-view';
import type { ChartTracker } from './tracker-layer';

export interface ChartMapProps {
  readonly look: Look;
  readonly stations: readonly StationView[];
  readonly trails: readonly TrailView[];
  readonly links: readonly HeardLink[];
  readonly trackers: readonly ChartTracker[];
  readonly own: MapPoint | null;
  /** Kilometres in the unit of the range rings. */
  readonly kmPerUnit: number;
  readonly layers: Readonly<Record<ChartLayer, boolean>>;
  readonly maps: readonly OwnMap[];
  readonly mapUrl: (id: string) => string;
  readonly selected: string | null;
  readonly measured: readonly MapPoint[] | null;
  /** Where the chart is to be kept; null leaves it where it is. */
  readonly following: MapPoint | null;
  readonly onSelect: (call: string | null) => void;
  readonly onMeasure: (point: MapPoint) => void;
  readonly onDragged: () => void;
  /** Told of what went wrong with a map of the operator's own. */
  readonly onMapTrouble: (name: string, reason: string) => void;
  readonly onReady: (view: ChartView) => void;
}

/** The map itself. It is driven from outside: what is given is what it shows. */
export default function ChartMap(props: ChartMapProps) {
  const target = useRef<HTMLDivElement | null>(null);
  const view = useRef<ChartView | null>(null);
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });

  useEffect(() => {
    const made = createChartView(target.current!, {
      select: (call) => latest.current.onSelect(call),
      measure: (point) => latest.current.onMeasure(point),
      dragged: () => latest.current.onDragged(),
      mapTrouble: (name, reason) => latest.current.onMapTrouble(name, reason),
    });
    view.current = made;
    latest.current.onReady(made);
    return () => {
      view.current = null;
      made.dispose();
    };
  }, []);

  // In the order of what lies under what; each draws only when its part changed.
  useEffect(() => view.current?.setLook(props.look), [props.look]);
  useEffect(() => view.current?.setMaps(props.maps, props.mapUrl), [props.maps, props.mapUrl, props.look]);
  useEffect(() => view.current?.setLayers(props.layers), [props.layers]);
  useEffect(() => view.current?.setOwn(props.own, props.kmPerUnit), [props.own, props.kmPerUnit, props.look]);
  useEffect(() => view.current?.setTrails(props.trails), [props.trails]);
  useEffect(() => view.current?.setStations(props.stations), [props.stations]);
  useEffect(() => view.current?.setLinks(props.links), [props.links, props.stations]);
  useEffect(() => view.current?.setTrackers(props.trackers), [props.trackers, props.look]);
  useEffect(() => view.current?.setSelected(props.selected), [props.selected]);
  useEffect(() => view.current?.setMeasured(props.measured), [props.measured, props.look]);
  useEffect(() => {
    if (props.following) view.current?.centre(props.following);
  }, [props.following]);

  return (
    <div
      ref={target}
      role="application"
      aria-label="Map of stations. Arrow keys move it, plus and minus zoom. The list holds everything that is on it."
      tabIndex={0}
      style={{ position: 'absolute', inset: 0, background: props.look.paper }}
    />
  );
}
