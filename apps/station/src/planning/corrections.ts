import { bearerKind } from '@tombolo/contract';
import {
  correctedSpread,
  correctionFor,
  correctionOf,
  FEWEST_TO_JUDGE,
  weightOf,
  type Corrections as Fitted,
} from '@tombolo/core';
import type { DataSource } from 'typeorm';
import type { Candidate } from './candidate';
import { carriedIn, closedForecasts, type Carried, type ClosedForecast } from './closed-forecasts';

/** What came of forecasts changes slowly: it is read no more often. */
const RENEWED_MS = 10 * 60_000;

/** By what a bearer carries: two modems of one sort of radio fail alike, however they are plugged in. */
export type CorrectionsByCarried = ReadonlyMap<Carried, Fitted>;
export type Corrections = (nowMs: number) => Promise<CorrectionsByCarried>;

/** Antennas, seasons and neighbours change: what came of a forecast says half as much a month later (our choice; no source). */
const HALF_LIFE_S = 30 * 86_400;

/** Whose set itself proves what goes by it; what is taken in a session is proved by the board or the relay, whoever it is for. */
const BY_THEIR_SET: ReadonlySet<Carried> = new Set<Carried>(['packets', 'texts']);

/** What forecasts of each sort are corrected by. Where those of late, or all with what they still say, are too few to judge there is none. */
export function correctionsFrom(closed: readonly ClosedForecast[], nowMs: number): CorrectionsByCarried {
  return new Map(
    carriedIn(closed).flatMap((carried) => {
      // Of what was reckoned, not of what was told: else each correction would be corrected again.
      const judged = closed
        .filter(({ kind }) => bearerKind(kind).sends === carried)
        .map(({ reckoned, happened, at, to }) => ({
          predicted: reckoned,
          happened,
          weight: weightOf((nowMs - at.getTime()) / 1000, HALF_LIFE_S),
          ...(BY_THEIR_SET.has(carried) && { to }),
        }));
      const said = judged.reduce((sum, { weight }) => sum + weight, 0);
      return said < FEWEST_TO_JUDGE ? [] : [[carried, correctionOf(judged)] as const];
    }),
  );
}

/** The corrections of a station, as they were at most ten minutes ago. */
export function createCorrections(database: DataSource): Corrections {
  let readMs = -Infinity;
  let reading: Promise<CorrectionsByCarried> | null = null;
  return (nowMs) => {
    // A clock that was set back reads anew as well.
    if (reading === null || Math.abs(nowMs - readMs) > RENEWED_MS) {
      readMs = nowMs;
      const mine = closedForecasts(database, nowMs).then(({ closed }) => correctionsFrom(closed, nowMs));
      reading = mine;
      mine.catch(() => {
        if (reading === mine) reading = null;
      });
    }
    return reading;
  };
}

/** A crossing with the chances that are told of it; what was reckoned stays beside them, with what came of earlier ones to the same. */
export function withCorrection(candidate: Candidate, all: Fitted): Candidate {
  const { arrives, arrival, proof, send } = candidate;
  const by = correctionFor(all, send.to);
  if (by.shift === 0 && by.scale === 1) return candidate;
  const told = correctedSpread(arrives, by);
  return {
    ...candidate,
    arrives: told,
    arrival: arrival.chance > 0 ? { ...arrival, chance: told.chance } : arrival,
    proof: proof && { ...proof, proven: correctedSpread(proof.proven, by) },
    reckoned: { arrives, proven: proof?.proven ?? null, theirs: all.theirs.get(send.to) ?? null },
  };
}
