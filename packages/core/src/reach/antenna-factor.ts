import { chanceOfMargin, SLOPE_DB } from './link-budget';

/** A station that was heard or missed, with what was reckoned for it. */
export interface HeardAgainst {
  /** Above what a frame needs, reckoned, dB. */
  readonly marginDb: number;
  readonly heard: number;
  readonly missed: number;
}

/** By how much reception differs from what was reckoned, dB, and between what it lies in nine of ten cases. */
export interface AntennaFactor {
  readonly db: number;
  readonly lowDb: number;
  readonly highDb: number;
}

/** Before anything was heard: what a usual set and place may be off (common practice, no source). */
const USUALLY_OFF_DB = 10;
/** Whoever is heard all day tells no more than so many frames: what the map does not know of the ground between is the same each time. */
const MOST_OF_ONE = 2;
const NINE_OF_TEN = 1.644854;
const ROUNDS = 60;

/**
 * The factor that makes what was heard and missed likeliest, held to none as far as sets and places usually differ. A fit over all stations
 * together: it does not tell our antenna from theirs. Null where nobody was heard or missed.
 */
export function antennaFactor(stations: readonly HeardAgainst[]): AntennaFactor | null {
  const rows = stations.flatMap(({ marginDb, heard, missed }) => {
    const all = heard + missed;
    const less = Math.min(1, MOST_OF_ONE / all);
    return all > 0 && Number.isFinite(marginDb) ? [{ marginDb, heard: heard * less, missed: missed * less }] : [];
  });
  if (rows.length === 0) return null;
  // The slope of the log likelihood falls all the way: halved until it is level.
  const slope = (db: number) =>
    rows.reduce(
      (sum, { marginDb, heard, missed }) => {
        const p = chanceOfMargin(marginDb + db);
        return sum + (heard * (1 - p) - missed * p) / SLOPE_DB;
      },
      -db / USUALLY_OFF_DB ** 2,
    );
  let [low, high] = [-200, 200];
  for (let round = 0; round < ROUNDS; round++) {
    const middle = (low + high) / 2;
    if (slope(middle) > 0) low = middle;
    else high = middle;
  }
  const db = (low + high) / 2;
  const curvature = rows.reduce(
    (sum, { marginDb, heard, missed }) => {
      const p = chanceOfMargin(marginDb + db);
      return sum + ((heard + missed) * p * (1 - p)) / SLOPE_DB ** 2;
    },
    1 / USUALLY_OFF_DB ** 2,
  );
  const half = NINE_OF_TEN / Math.sqrt(curvature);
  return { db, lowDb: db - half, highDb: db + half };
}
