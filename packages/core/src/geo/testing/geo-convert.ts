import { execFileSync } from 'node:child_process';

/** What GeographicLib's own tool makes of places (GeoConvert of Debian's geographiclib-tools): the outside check. */
export const geoConvert = (
  places: readonly (readonly [latitude: number, longitude: number])[],
  ...options: string[]
): string[] =>
  execFileSync('GeoConvert', options, {
    input: places.map(([latitude, longitude]) => `${latitude} ${longitude}`).join('\n'),
    encoding: 'utf8',
  })
    .trim()
    .split('\n');
