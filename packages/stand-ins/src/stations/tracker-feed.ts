import { stations } from '@tombolo/scenario';
import type { District } from '../district';

/** Units that a satellite carries, by what they are fixed to. */
const UNITS = [
  { unit: 'SAT-0417', on: stations.lifeboat.call, battery: 83 },
  { unit: 'SAT-0422', on: stations.truck.call, battery: 58 },
] as const;
/** They report each full five minutes. */
const EVERY_MS = 300_000;

/** The web feed of a tracker service that there is not: GeoJSON, as docs/formats.md says. */
export const trackersOf = ({ radios }: Pick<District, 'radios'>, nowMs: number) => ({
  type: 'FeatureCollection',
  features: UNITS.map(({ unit, on, battery }) => {
    const { latitude, longitude } = radios[on]!.station.position;
    return {
      type: 'Feature',
      geometry: { type: 'Point', coordinates: [longitude, latitude] },
      properties: {
        unit,
        time: new Date(Math.floor(nowMs / EVERY_MS) * EVERY_MS).toISOString(),
        battery,
        emergency: false,
      },
    };
  }),
});
