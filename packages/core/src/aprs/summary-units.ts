import { speedInWords, windOf, type DistanceUnit } from '../geo/units';

/** As `weatherInWords` tells it; what was told to the whole metre a second, as once, is too coarse to be told in another unit. */
const WIND = /^(wind (?:from \d{1,3}° )?|gusts )(\d{1,4}\.\d) m\/s$/;
const OTHER_WEATHER =
  /^(?:-?\d{1,4} °C|\d{1,3} % humidity|\d{1,4}\.\d hPa|rain \d{1,4}\.\d mm\/h|no measurement|(?:wind (?:from \d{1,3}° )?|gusts )\d{1,4} m\/s)$/;
const MOTION = /^(\d{1,3}° at )?(\d{1,4}) kn$/;
const BETWEEN = ' – ';

function weatherIn(words: string, unit: DistanceUnit): string | null {
  const parts = words.split(', ');
  if (!parts.every((part) => WIND.test(part) || OTHER_WEATHER.test(part))) return null;
  const { unit: of, perMs } = windOf(unit);
  return parts
    .map((part) =>
      part.replace(
        WIND,
        (_, what: string, ms: string) => `${what}${(Number(ms) * perMs).toFixed(unit === 'km' ? 1 : 0)} ${of}`,
      ),
    )
    .join(', ');
}

const motionIn = (words: string, unit: DistanceUnit): string | null =>
  MOTION.test(words)
    ? words.replace(
        MOTION,
        (_, course: string | undefined, knots: string) => (course ?? '') + speedInWords(Number(knots), unit),
      )
    : null;

/** What a kind of packet tells of these, in this order, behind where it is. */
const TELLS: Readonly<Record<string, { readonly from: number; readonly what: readonly (typeof weatherIn)[] }>> = {
  position: { from: 1, what: [weatherIn, motionIn] },
  'Mic-E': { from: 1, what: [motionIn] },
  weather: { from: 0, what: [weatherIn] },
};

/**
 * The line of `summaryOf` with speeds in the unit that goes with the chosen one of distance: knots beside nautical miles, km/h and m/s
 * beside kilometres. What the sender wrote behind it stays as it was written, unless nothing was told and it reads just like that.
 */
export function summaryInUnit(summary: string, kind: string, unit: DistanceUnit): string {
  const tells = TELLS[kind];
  if (!tells) return summary;
  const parts = summary.split(BETWEEN);
  let at = tells.from;
  for (const inUnit of tells.what) {
    const words = parts[at];
    const told = words === undefined ? null : inUnit(words, unit);
    if (told !== null) parts[at++] = told;
  }
  return parts.join(BETWEEN);
}
