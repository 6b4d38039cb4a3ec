import { locatorOf, positionOfLocator } from './locator';

/** By exact fractions: degrees as a numerator over `per`, both whole, counted in BigInt. */
function exactly(northNumerator: bigint, eastNumerator: bigint, per: bigint): string {
  const letter = (n: bigint, from: string) => String.fromCharCode(from.charCodeAt(0) + Number(n));
  const east = eastNumerator + 180n * per;
  const north = northNumerator + 90n * per;
  return [
    letter(east / (20n * per), 'A'),
    letter(north / (10n * per), 'A'),
    (east / (2n * per)) % 10n,
    (north / per) % 10n,
    letter(((east * 12n) / per) % 24n, 'a'),
    letter(((north * 24n) / per) % 24n, 'a'),
    ((east * 120n) / per) % 10n,
    ((north * 240n) / per) % 10n,
  ].join('');
}

// IARU Region 1, 1980; the two examples by hand: 52 N 6 E begins the square JO32, 38 N 44 W the square GM88.
describe('the locator of a place on the edge of squares', () => {
  it('is that of the square to the north-east', () => {
    expect(locatorOf({ latitude: 52, longitude: 6 })).toBe('JO32aa');
    expect(locatorOf({ latitude: 38, longitude: -44 })).toBe('GM88aa');
  });
  it('is exact at every whole degree', () => {
    const wrong: string[] = [];
    for (let latitude = -90; latitude < 90; latitude++)
      for (let longitude = -180; longitude < 180; longitude++) {
        const exact = exactly(BigInt(latitude), BigInt(longitude), 1n);
        if (locatorOf({ latitude, longitude }, 8) !== exact) wrong.push(`${latitude} ${longitude}`);
      }
    expect(wrong).toEqual([]);
  });
  it('is exact in steps of a hundredth of a minute through a square', () => {
    const wrong: string[] = [];
    // 5' by 2.5' and a step beyond on each side, in 6 000 hundredths of a minute a degree.
    for (const [south, west] of [
      [41 * 6000 + 1500, -(43 * 6000 + 2000)],
      [-(34 * 6000 + 4000), 151 * 6000 + 500],
    ] as const)
      for (let y = -1; y <= 251; y++)
        for (let x = -1; x <= 501; x += 7) {
          const place = { latitude: (south + y) / 6000, longitude: (west + x) / 6000 };
          if (locatorOf(place, 8) !== exactly(BigInt(south + y), BigInt(west + x), 6000n))
            wrong.push(JSON.stringify(place));
        }
    expect(wrong).toEqual([]);
  });
  it('belongs to the last square at the pole and the antimeridian', () => {
    expect(locatorOf({ latitude: 90, longitude: 180 }, 8)).toBe('RR99xx99');
    expect(locatorOf({ latitude: -90, longitude: -180 }, 8)).toBe('AA00aa00');
  });
  it('has its middle where its own locator is the same', () => {
    for (const locator of ['JO32aa', 'GM88', 'GN81ig07', 'RR99xx99']) {
      const middle = positionOfLocator(locator);
      expect(middle.ok && locatorOf(middle.value, locator.length as 4 | 6 | 8)).toBe(locator);
    }
  });
});
