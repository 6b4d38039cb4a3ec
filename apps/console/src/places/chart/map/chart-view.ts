import type { HeardLink, MapView as OwnMap, StationView, TrailView } from '@tombolo/contract';
import Feature from 'ol/Feature';
import Map from 'ol/Map';
import View from 'ol/View';
import { boundingExtent, isEmpty, type Extent } from 'ol/extent';
import { LineString, MultiLineString, Point } from 'ol/geom';
import type BaseLayer from 'ol/layer/Base';
import VectorLayer from 'ol/layer/Vector';
import VectorImageLayer from 'ol/layer/VectorImage';
import { fromLonLat, toLonLat, transformExtent } from 'ol/proj';
import Cluster from 'ol/source/Cluster';
import VectorSource from 'ol/source/Vector';
import { Stroke, Style } from 'ol/style';
import { bearingBetween, geodesicLine } from '@tombolo/core';
import type { Look } from '../../../ui/lights';
import type { ChartLayer, MapPoint } from '../chart-store';
import { createGridLayers } from './grid-layers';
import { createMeasureLayer } from './measure-layer';
import { drawAnew, openOwnMap } from './own-maps';
import { createStationStyles } from './station-style';
import { trailCoordinates } from './trail-coordinates';
import { createTrackerLayer, type ChartTracker } from './tracker-layer';
import { createWorldLayer } from './world-layer';

export interface ChartView {
  setLook(look: Look): void;
  setMaps(maps: readonly OwnMap[], urlOf: (id: string) => string): void;
  setLayers(layers: Readonly<Record<ChartLayer, boolean>>): void;
  setOwn(own: MapPoint | null, kmPerUnit: number): void;
  setTrails(trails: readonly TrailView[]): void;
  setStations(stations: readonly StationView[]): void;
  setLinks(links: readonly HeardLink[]): void;
  setTrackers(trackers: readonly ChartTracker[]): void;
  setSelected(call: string | null): void;
  setMeasured(points: readonly MapPoint[] | null): void;
  centre(point: MapPoint): void;
  /** The place under the middle of the chart. */
  middle(): MapPoint;
  zoomBy(steps: number): void;
  /** Shows all stations. */
  showAll(): void;
  dispose(): void;
}

export interface ChartEvents {
  select(call: string | null): void;
  measure(point: MapPoint): void;
  dragged(): void;
  mapTrouble(name: string, reason: string): void;
}

const at = ({ latitude, longitude }: MapPoint) => fromLonLat([longitude, latitude]);
/** Stations nearer to each other than this are counted, not drawn one over the other. */
const CLUSTER_PX = 34;
const TAP_PX = 12;
/** With no station or no trail to draw the outlines of the world are loaded after this time. */
const WORLD_MS = 1500;
const WORLD = { longitude: 0, latitude: 25, zoom: 2 };

/**
 * The chart as a thing apart from the page: OpenLayers on a canvas. What is large (ground, trails) is drawn once into a picture that
 * moves with the finger and is drawn anew when it lies still.
 */
export function createChartView(target: HTMLElement, events: ChartEvents): ChartView {
  const stations = new VectorSource<Feature<Point>>();
  const clusters = new Cluster({ distance: CLUSTER_PX, source: stations });
  const trails = new VectorSource();
  const links = new VectorSource();
  const world = createWorldLayer();
  const grids = createGridLayers();
  const measure = createMeasureLayer();
  const trackers = createTrackerLayer();
  // The picture is larger than the window, so that a drag shows no bare edge at once.
  const trailLayer = new VectorImageLayer({ source: trails, imageRatio: 1.5 });
  const linkLayer = new VectorImageLayer({ source: links, imageRatio: 1.5 });
  const stationLayer = new VectorLayer({ source: clusters, updateWhileAnimating: false });
  const map = new Map({
    target,
    controls: [],
    pixelRatio: Math.min(2, globalThis.devicePixelRatio || 1),
    layers: [
      world.layer,
      grids.graticule,
      grids.locators,
      grids.rings,
      linkLayer,
      trailLayer,
      trackers.layer,
      stationLayer,
      measure.layer,
    ],
    view: new View({
      center: fromLonLat([WORLD.longitude, WORLD.latitude]),
      zoom: WORLD.zoom,
      minZoom: 1,
      maxZoom: 18,
      enableRotation: false,
    }),
  });

  const worldTimer = setTimeout(world.load, WORLD_MS);

  let look: Look | null = null;
  let selected: string | null = null;
  let placed = false;
  let ownMaps: { id: string; look: Look; layer: BaseLayer }[] = [];
  let byCall: ReadonlyMap<string, StationView> = new globalThis.Map();
  let measuring = false;

  const bounds = () => {
    const [west = -180, south = -85, east = 180, north = 85] = transformExtent(
      map.getView().calculateExtent(map.getSize()),
      'EPSG:3857',
      'EPSG:4326',
    );
    return { west, south: Math.max(-85, south), east: Math.min(east, west + 360), north: Math.min(85, north) };
  };
  const drawGrids = () => {
    const [width = 0, height = 0] = map.getSize() ?? [];
    // A label is about so wide, and rows need some air.
    if (look) grids.update(bounds(), look, { across: Math.max(2, width / 100), up: Math.max(2, height / 64) });
  };
  let gridding = 0;
  // Once for all that changed before the next frame: while the chart is built each of its parts asks for it.
  const regrid = () => {
    gridding ||= requestAnimationFrame(() => {
      gridding = 0;
      drawGrids();
    });
  };
  map.on('moveend', regrid);
  map.on('pointerdrag', () => events.dragged());
  map.on('singleclick', (event) => {
    const [longitude = 0, latitude = 0] = toLonLat(event.coordinate);
    if (measuring) return events.measure({ longitude, latitude });
    const hit = map.forEachFeatureAtPixel(event.pixel, (feature) => feature, {
      layerFilter: (layer) => layer === stationLayer,
      hitTolerance: TAP_PX,
    });
    const members = (hit?.get('features') ?? []) as Feature<Point>[];
    if (members.length === 0) return events.select(null);
    if (members.length === 1) return events.select((members[0]!.get('station') as StationView).call);
    openCluster(members);
  });
  map.on('pointermove', (event) => {
    const over = map.hasFeatureAtPixel(event.pixel, { layerFilter: (layer) => layer === stationLayer });
    target.style.cursor = measuring ? 'crosshair' : over ? 'pointer' : '';
  });

  /** Goes nearer until the members part; those on one spot are given one by one. */
  function openCluster(members: readonly Feature<Point>[]): void {
    const extent = boundingExtent(members.map((member) => member.getGeometry()!.getCoordinates()));
    const view = map.getView();
    const apart = Math.max(extent[2]! - extent[0]!, extent[3]! - extent[1]!);
    if (apart < 2 || view.getZoom()! >= 17) {
      const calls = members.map((member) => (member.get('station') as StationView).call).sort();
      return events.select(calls[(calls.indexOf(selected ?? '') + 1) % calls.length]!);
    }
    view.fit(extent, { padding: [80, 80, 80, 80], maxZoom: 17, duration: 0 });
  }

  const fit = (extent: Extent) => {
    if (isEmpty(extent)) return;
    map.getView().fit(extent, { padding: [56, 76, 56, 48], maxZoom: 12 });
  };

  return {
    setLook(next) {
      look = next;
      world.setLook(next);
      const style = createStationStyles(next, Date.now);
      stationLayer.setStyle((feature, resolution) => style(feature, resolution, selected));
      trailLayer.setStyle(new Style({ stroke: new Stroke({ color: next.sandText, width: 1.8 }) }));
      linkLayer.setStyle((feature) => linkStyle(next, Boolean(feature.get('first'))));
      regrid();
    },
    setMaps(maps, urlOf) {
      const wanted = look;
      if (!wanted) return;
      const keep = ownMaps.filter((own) => own.look === wanted && maps.some(({ id }) => id === own.id));
      for (const own of ownMaps) if (!keep.includes(own)) map.removeLayer(own.layer);
      ownMaps = keep;
      for (const own of maps) {
        if (keep.some(({ id }) => id === own.id)) continue;
        const isFree = (extent: Extent) => stations.getFeaturesInExtent(extent).length === 0;
        const layer = openOwnMap(own, urlOf(own.id), wanted, isFree, (reason) => events.mapTrouble(own.name, reason));
        ownMaps.push({ id: own.id, look: wanted, layer });
        // Above the world, below all grids.
        map.getLayers().insertAt(ownMaps.length, layer);
      }
    },
    setLayers(layers) {
      trailLayer.setVisible(layers.trails);
      linkLayer.setVisible(layers.links);
      grids.rings.setVisible(layers.rings);
      grids.graticule.setVisible(layers.graticule);
      grids.locators.setVisible(layers.locators);
      regrid();
    },
    setOwn(own, kmPerUnit) {
      grids.setOwn(own, kmPerUnit);
      regrid();
    },
    setTrails(views) {
      trails.clear(true);
      if (views.length === 0) return trails.changed();
      // One feature for all: a thousand lines cost no more than one.
      const { flat, ends } = trailCoordinates(views);
      trails.addFeature(new Feature(new MultiLineString(flat, 'XY', ends)));
      map.once('rendercomplete', () => {
        performance.mark('trails painted');
        world.load();
      });
    },
    setStations(views) {
      byCall = new globalThis.Map(views.map((station) => [station.call, station]));
      const features: Feature<Point>[] = [];
      for (const station of views) {
        const { latitude, longitude } = station;
        if (latitude === null || longitude === null) continue;
        const feature = new Feature(new Point(fromLonLat([longitude, latitude])));
        feature.set('station', station, true);
        features.push(feature);
      }
      stations.clear(true);
      stations.addFeatures(features);
      if (features.length === 0) return;
      if (!placed) {
        placed = true;
        fit(stations.getExtent()!);
        // Names on them make room; from then on whenever they are drawn anew.
        for (const { layer } of ownMaps) drawAnew(layer);
      }
      // For the browser's own performance tools, and our benchmark. The outlines of the world come behind what matters.
      map.once('rendercomplete', () => {
        performance.mark('stations painted');
        // Behind the trails too, which come at the same time.
        if (!trailLayer.getVisible()) world.load();
      });
    },
    setLinks(views) {
      links.clear(true);
      const placeOf = (call: string) => {
        const station = byCall.get(call);
        return station && station.latitude !== null && station.longitude !== null
          ? { latitude: station.latitude, longitude: station.longitude }
          : null;
      };
      links.addFeatures(
        views.flatMap(({ from, by, firstCount }) => {
          const [a, b] = [placeOf(from), placeOf(by)];
          if (!a || !b) return [];
          const pieces = bearingBetween(a, b).distanceKm > 200 ? 24 : 1;
          const line = geodesicLine(a, b, pieces).map(([x, y]) => fromLonLat([x, y]));
          const feature = new Feature(new LineString(line));
          feature.set('first', firstCount > 0, true);
          return [feature];
        }),
      );
    },
    setTrackers(shown) {
      if (look) trackers.update(shown, look);
    },
    setSelected(call) {
      selected = call;
      stationLayer.changed();
    },
    setMeasured(points) {
      measuring = points !== null;
      target.style.cursor = measuring ? 'crosshair' : '';
      if (look) measure.update(points ?? [], look);
    },
    centre(point) {
      placed = true;
      map.getView().setCenter(at(point));
      if (map.getView().getZoom()! < 9) map.getView().setZoom(11);
    },
    middle() {
      const [longitude = 0, latitude = 0] = toLonLat(map.getView().getCenter() ?? [0, 0]);
      return { latitude, longitude };
    },
    zoomBy: (steps) => map.getView().setZoom(map.getView().getZoom()! + steps),
    showAll: () => fit(stations.getExtent()!),
    dispose() {
      clearTimeout(worldTimer);
      cancelAnimationFrame(gridding);
      map.dispose();
    },
  };
}

/** Solid where the sender itself was heard, dashed where what was heard had been repeated before. */
const linkStyle = (look: Look, first: boolean): Style =>
  new Style({ stroke: new Stroke({ color: look.tide, width: 1.4, lineDash: first ? undefined : [6, 5] }) });
