import { locatorOf } from '@tombolo/core';
import { placeWords } from '../../chart/words';

interface Place {
  readonly latitude: number;
  readonly longitude: number;
}

/** `41° 16′ 8.4″ N`. */
function degreesMinutesSeconds(value: number, positive: string, negative: string): string {
  const tenths = Math.round(Math.abs(value) * 36_000);
  const degrees = Math.floor(tenths / 36_000);
  const minutes = Math.floor((tenths - degrees * 36_000) / 600);
  const seconds = (tenths - degrees * 36_000 - minutes * 600) / 10;
  return `${degrees}° ${minutes}′ ${seconds.toFixed(1)}″ ${value < 0 ? negative : positive}`;
}

/** The same point as people write it, each as finely as the others. */
export const formsOf = ({ latitude, longitude }: Place): { name: string; text: string }[] => [
  { name: 'Degrees and minutes', text: placeWords(latitude, longitude) },
  { name: 'Decimal degrees', text: `${latitude.toFixed(5)}, ${longitude.toFixed(5)}` },
  {
    name: 'Degrees, minutes and seconds',
    text: `${degreesMinutesSeconds(latitude, 'N', 'S')}, ${degreesMinutesSeconds(longitude, 'E', 'W')}`,
  },
  { name: 'Locator', text: locatorOf({ latitude, longitude }) },
];
