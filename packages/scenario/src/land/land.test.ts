import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { check } from '@placemarkio/check-geojson';
import { geoJson } from '@tombolo/contract';
import { stations } from '../stations';
import { makeFeatures } from './features';
import { heightAt, isLand, makeHeights } from './heights';

const kept = (name: string) => readFileSync(join(__dirname, '../../map', name), 'utf8');
const heights = makeHeights();

describe('the land of Hollin Sound', () => {
  it('is what the generator makes of its seed', () => {
    expect(JSON.parse(kept('heights.json'))).toEqual(heights);
    expect(JSON.parse(kept('hollin-sound.geojson'))).toEqual(makeFeatures(heights));
  });
  it('is GeoJSON to a validator, and to our own schema', () => {
    expect(check(kept('hollin-sound.geojson'))).toMatchObject({ type: 'FeatureCollection' });
    expect(geoJson.safeParse(JSON.parse(kept('hollin-sound.geojson'))).success).toBe(true);
  });
  it('carries its stations on dry land, and the lifeboat on water', () => {
    for (const { call, position } of Object.values(stations))
      expect({ call, land: isLand(heights, position.latitude, position.longitude) }).toEqual({
        call,
        land: call !== stations.lifeboat.call,
      });
  });
  it('is as high as the scenario says', () => {
    expect(heightAt(heights, 41.2425, -43.456)).toBeCloseTo(412, -1.2);
    expect(heightAt(heights, 41.2655, -43.296)).toBeCloseTo(188, -1.2);
    expect(heightAt(heights, 0, 0)).toBeLessThan(0);
  });
  it('is several islands', () => {
    const [land] = makeFeatures(heights).features;
    const count = land!.geometry.type === 'MultiPolygon' ? land!.geometry.coordinates.length : 0;
    expect(count).toBeGreaterThanOrEqual(6);
    expect(count).toBeLessThan(20);
  });
});
