import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { check } from '@placemarkio/check-geojson';
import { geoJson } from '@tombolo/contract';
import { stations } from '../stations';
import { makeFeatures } from './features';
import { heightIn, readHeightTile } from '@tombolo/core';
import { heightAt, isLand, makeHeights } from './heights';
import { makeTile, TILE_NAME } from './tile';

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
  it('is the same as a tile of elevation, with the sea at 0', () => {
    const octets = new Uint8Array(gunzipSync(readFileSync(join(__dirname, '../../map', `${TILE_NAME}.gz`))));
    expect(Buffer.compare(octets, makeTile(heights))).toBe(0);
    const tile = readHeightTile(TILE_NAME, octets);
    if (!tile.ok) throw new Error(tile.error.reason);
    for (const { position } of Object.values(stations)) {
      const { latitude, longitude } = position;
      // Between samples of 3″ a slope is a little cut.
      const off = (heightIn(tile.value, position) ?? NaN) - Math.max(0, heightAt(heights, latitude, longitude));
      expect(Math.abs(off)).toBeLessThan(8);
    }
    expect(heightIn(tile.value, { latitude: 41.5, longitude: -43.9 })).toBe(0);
  });
  it('is several islands', () => {
    const [land] = makeFeatures(heights).features;
    const count = land!.geometry.type === 'MultiPolygon' ? land!.geometry.coordinates.length : 0;
    expect(count).toBeGreaterThanOrEqual(6);
    expect(count).toBeLessThan(20);
  });
});
