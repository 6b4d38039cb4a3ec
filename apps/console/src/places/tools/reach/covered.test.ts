import { covered, type CoveredAsked, type CoveredTold } from './covered';

const SIDE = 60;
const asked = (): CoveredAsked => {
  const heightsM = Int16Array.from({ length: SIDE * SIDE }, (_, n) => (n % SIDE < SIDE / 2 ? 20 : 0));
  return {
    area: { south: 41, north: 41.3, west: -43.6, east: -43.2, columns: SIDE, rows: SIDE },
    heights: Buffer.from(heightsM.buffer).toString('base64'),
    from: { latitude: 41.15, longitude: -43.4 },
    station: { antennaM: 10, powerW: 5, gainDbi: 0, clutterDb: 0 },
    other: { antennaM: 2, powerW: 1, gainDbi: -10, clutterDb: 20 },
    frequencyMHz: 145,
    neededDbm: -116,
  };
};

describe('the picture of where a station is heard', () => {
  it('tells how far it is, then once the whole', () => {
    const told = [...covered(asked())];
    const progress = told.flatMap((one) => (one.what === 'progress' ? [one.share] : []));
    expect(progress.length).toBeGreaterThan(10);
    expect(progress.length).toBeLessThanOrEqual(51);
    expect([...progress].sort((a, b) => a - b)).toEqual(progress);
    expect(told.filter(({ what }) => what === 'picture')).toHaveLength(1);
    const picture = told.at(-1) as Extract<CoveredTold, { what: 'picture' }>;
    expect(picture.land.paths[0]).toContain(`h${SIDE / 2}v1`);
    expect(picture.served.paths).toHaveLength(3);
    const land = Object.values(picture.areaKm2.land).reduce((sum, km2) => sum + km2, 0);
    const sea = Object.values(picture.areaKm2.sea).reduce((sum, km2) => sum + km2, 0);
    expect(land / (land + sea)).toBeGreaterThan(0.4);
    expect(land / (land + sea)).toBeLessThan(0.6);
    expect(picture.areaKm2.land.well).toBeGreaterThan(0);
    expect(picture.areaKm2.land.hardly).toBeGreaterThan(0);
  });
});
