import type { BearerKindId } from '@tombolo/contract';
import { correctedSpread, correctionOf, FEWEST_TO_JUDGE, type Correction } from '@tombolo/core';
import type { DataSource } from 'typeorm';
import type { Candidate } from './candidate';
import { closedForecasts, type ClosedForecast } from './closed-forecasts';

/** What came of forecasts changes slowly: it is read no more often. */
const RENEWED_MS = 10 * 60_000;

export type CorrectionsByKind = ReadonlyMap<BearerKindId, Correction>;
export type Corrections = (nowMs: number) => Promise<CorrectionsByKind>;

/** What forecasts by each kind of bearer are corrected by. Where there are too few to judge there is none. */
export function correctionsFrom(closed: readonly ClosedForecast[]): CorrectionsByKind {
  const kinds = [...new Set(closed.map(({ kind }) => kind))].sort();
  return new Map(
    kinds.flatMap((kind) => {
      // Of what was reckoned, not of what was told: else each correction would be corrected again.
      const judged = closed
        .filter((one) => one.kind === kind)
        .map(({ reckoned, happened }) => ({ predicted: reckoned, happened }));
      return judged.length < FEWEST_TO_JUDGE ? [] : [[kind, correctionOf(judged)] as const];
    }),
  );
}

/** The corrections of a station, as they were at most ten minutes ago. */
export function createCorrections(database: DataSource): Corrections {
  let readMs = -Infinity;
  let reading: Promise<CorrectionsByKind> | null = null;
  return (nowMs) => {
    // A clock that was set back reads anew as well.
    if (reading === null || Math.abs(nowMs - readMs) > RENEWED_MS) {
      readMs = nowMs;
      const mine = closedForecasts(database, nowMs).then(({ closed }) => correctionsFrom(closed));
      reading = mine;
      mine.catch(() => {
        if (reading === mine) reading = null;
      });
    }
    return reading;
  };
}

/** A crossing with the chances that are told of it; what was reckoned stays beside them. */
export function withCorrection(candidate: Candidate, by: Correction): Candidate {
  if (by.shift === 0 && by.scale === 1) return candidate;
  const { arrives, arrival, proof } = candidate;
  const told = correctedSpread(arrives, by);
  return {
    ...candidate,
    arrives: told,
    arrival: arrival.chance > 0 ? { ...arrival, chance: told.chance } : arrival,
    proof: proof && { ...proof, proven: correctedSpread(proof.proven, by) },
    reckoned: { arrives, proven: proof?.proven ?? null },
  };
}
