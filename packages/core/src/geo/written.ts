import type { Position } from './geodesic';
import { locatorOf } from './locator';
import { gridOf } from './military-grid';
import { utmOf } from './utm';

/** `41° 16.140′ N`: a thousandth of a minute is about 2 m. */
function minutesOf(value: number, positive: string, negative: string): string {
  const thousandths = Math.round(Math.abs(value) * 60_000);
  const degrees = Math.floor(thousandths / 60_000);
  return `${degrees}° ${((thousandths - degrees * 60_000) / 1000).toFixed(3)}′ ${value < 0 ? negative : positive}`;
}

/** `41° 16′ 8.4″ N`. */
function secondsOf(value: number, positive: string, negative: string): string {
  const tenths = Math.round(Math.abs(value) * 36_000);
  const degrees = Math.floor(tenths / 36_000);
  const minutes = Math.floor((tenths - degrees * 36_000) / 600);
  const seconds = (tenths - degrees * 36_000 - minutes * 600) / 10;
  return `${degrees}° ${minutes}′ ${seconds.toFixed(1)}″ ${value < 0 ? negative : positive}`;
}

/** `41° 16.140′ N, 43° 17.100′ W`, as charts and radios have it. */
export const degreesAndMinutes = ({ latitude, longitude }: Position): string =>
  `${minutesOf(latitude, 'N', 'S')}, ${minutesOf(longitude, 'E', 'W')}`;

/** The same point as people write it; none for the grids near the poles. */
export const writtenForms = (position: Position): { name: string; text: string }[] => {
  const grid = gridOf(position);
  const utm = utmOf(position);
  return [
    { name: 'Degrees and minutes', text: degreesAndMinutes(position) },
    { name: 'Decimal degrees', text: `${position.latitude.toFixed(5)}, ${position.longitude.toFixed(5)}` },
    {
      name: 'Degrees, minutes and seconds',
      text: `${secondsOf(position.latitude, 'N', 'S')}, ${secondsOf(position.longitude, 'E', 'W')}`,
    },
    { name: 'Locator', text: locatorOf(position) },
    ...(grid === null ? [] : [{ name: 'Military grid', text: grid }]),
    ...(utm === null ? [] : [{ name: 'UTM (zone and band, easting, northing)', text: utm }]),
  ];
};
