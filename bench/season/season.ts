import {
  calibrationOf,
  corrected,
  correctionFor,
  NO_CORRECTION,
  retryDelayMs,
  seeded,
  type Calibration,
} from '@tombolo/core';
import type { ClosedForecast } from '../../apps/station/src/planning/closed-forecasts';
import { correctionsFrom } from '../../apps/station/src/planning/corrections';
import type { Figure } from '../figure';
import { Book } from './book';
import { flood } from './flood';
import { alwaysTwo, byLastHeard, OWN, planner, RETRY, TWO_HOPS, type Policy } from './policies';
import { createWorld, hashed, type World, type WorldStation } from './world';

const FAR = 40;
const DAYS = 50;
const SENDS_A_DAY = 42;
const DAY_S = 86_400;
const BEACON_S = 1200;
/** Of one packet, transmit delay included. */
const AIR_S = 0.8;
/** So long it is listened before the first text is sent. */
const BEFORE_S = 6 * 3600;
/** Another island, with others on it. */
const SEED = process.env['TOMBOLO_SEASON_SEED'] ?? 'season';
/** The correction is fitted anew after so many sendings, of those that are so old that all their tries are over. */
const CORRECTED_EVERY = 10;
const OVER_MS = 3 * 3_600_000;

interface Outcome {
  readonly forecasts: readonly ClosedForecast[];
  readonly delivered: number;
  readonly airS: number;
  readonly sends: number;
}

/** One season by one policy: everybody announces, we hear what we hear, and send texts that ask for an answer. */
function seasonBy(world: World, policy: Policy): Outcome {
  const book = new Book(OWN);
  const others = world.stations.filter(({ role }) => role !== 'us');
  const people = world.stations.filter(({ role }) => role === 'far').map(({ call }) => call);
  const forecasts: ClosedForecast[] = [];
  let correction = NO_CORRECTION;
  let [delivered, airS, sends] = [0, 0, 0];
  const sendAtS = Array.from(
    { length: DAYS * SENDS_A_DAY },
    (_, n) => BEFORE_S + (n + hashed(`${SEED}send${n}`)) * (DAY_S / SENDS_A_DAY),
  );
  const announce = (call: string, role: WorldStation['role'], momentS: number, draw: string) => {
    if (!world.isOn(call, momentS)) return;
    // Digipeaters announce themselves without being repeated.
    const path = role === 'far' ? TWO_HOPS : [];
    book.hear(call, flood(world, call, path, momentS, draw), 1000 * momentS);
  };
  let next = 0;
  for (let atS = 0; atS < BEFORE_S + DAYS * DAY_S; atS += BEACON_S) {
    // Each at a moment of its own, and all in their order: what is not heard yet is not known.
    const announcements = others
      .map(({ call, role }) => ({ call, role, momentS: atS + BEACON_S * hashed(`${SEED}${call}beacon`) }))
      .sort((a, b) => a.momentS - b.momentS);
    const announceUntil = (momentS: number) => {
      while (announcements[0] && announcements[0].momentS <= momentS) {
        const { call, role, momentS: then } = announcements.shift()!;
        announce(call, role, then, `beacon${atS}`);
      }
    };
    for (; next < sendAtS.length && sendAtS[next]! < atS + BEACON_S; next++) {
      const beganS = sendAtS[next]!;
      announceUntil(beganS);
      // Half of the texts go to a few.
      const pick = hashed(`${SEED}to${next}`);
      const to = people[Math.floor(pick < 0.5 ? pick * 2 * 8 : (pick - 0.5) * 2 * people.length)]!;
      const chosen = policy(world, book, to, 'Ready at the pier, please confirm', 1000 * beganS);
      sends++;
      let tryS = beganS;
      let proven = false;
      let arrived = false;
      let tries = 0;
      while (tries < chosen.times && !proven) {
        tries++;
        const draw = `text${next}try${tries}`;
        const out = flood(world, OWN, chosen.path, tryS, draw);
        airS += AIR_S * out.transmissions.length;
        book.ownCopies(out, chosen.path[0], 1000 * tryS);
        if (world.of(to).answers && world.isOn(to, tryS) && out.heard(to).length > 0) {
          arrived = true;
          const back = flood(world, to, TWO_HOPS, tryS + 2, `${draw}back`);
          airS += AIR_S * back.transmissions.length;
          proven = back.heard(OWN).length > 0;
        }
        if (!proven && tries < chosen.times)
          tryS += retryDelayMs(RETRY, tries, hashed(`${SEED}${draw}wait`), chosen.path.length > 0) / 1000;
      }
      book.sent(to, chosen.path, tries, proven, 1000 * beganS, 1000 * tryS);
      if (arrived) delivered++;
      if (chosen.proven === null) continue;
      const by = correctionFor(correction, to);
      forecasts.push({
        predicted: corrected(chosen.proven, by),
        reckoned: chosen.proven,
        happened: proven,
        to,
        at: new Date(1000 * beganS),
        basis: chosen.basis ?? 'map',
        kind: 'kiss-tcp',
      });
      if (forecasts.length % CORRECTED_EVERY === 0) {
        const nowMs = 1000 * beganS;
        const over = forecasts.filter(({ at }) => at.getTime() < nowMs - OVER_MS);
        correction = correctionsFrom(over, nowMs).get('packets') ?? NO_CORRECTION;
      }
    }
    announceUntil(Infinity);
  }
  return { forecasts, delivered, airS, sends };
}

const binsInWords = ({ bins }: Calibration): string =>
  bins.map(({ predicted, happened }) => `${Math.round(100 * predicted)}→${Math.round(100 * happened)}`).join(' ');

/** A season of texts in one process: how honest the planner was, and what it cost beside two that plan nothing. */
export async function season(): Promise<Figure[]> {
  const world = createWorld(SEED, FAR);
  const planned = seasonBy(world, planner);
  const two = seasonBy(world, alwaysTwo);
  const last = seasonBy(world, byLastHeard);
  const calibration = calibrationOf(planned.forecasts, seeded(1));
  const before = calibrationOf(
    planned.forecasts.map(({ reckoned, happened }) => ({ predicted: reckoned, happened })),
    seeded(1),
  );
  const cost = ({ airS, delivered }: Outcome) => airS / Math.max(1, delivered);
  const share = ({ delivered, sends }: Outcome) => delivered / sends;
  const percent = (outcome: Outcome) => `${(100 * share(outcome)).toFixed(1)} %`;
  return [
    {
      name: `Calibration error over ${planned.forecasts.length} sendings, of what a perfect forecaster shows by chance`,
      value: calibration.error / calibration.errorByChance,
      unit: 'times',
      goal: 1,
      better: 'less',
      note: `${calibration.error.toFixed(3)} of ${calibration.errorByChance.toFixed(3)}, before it was corrected ${before.error.toFixed(3)} of ${before.errorByChance.toFixed(3)}; Brier ${calibration.brier.toFixed(3)}, resolution ${calibration.parts.resolution.toFixed(3)}; predicted→proved of 100 by tenths: ${binsInWords(calibration)}`,
    },
    {
      name: 'Air time for each delivered text, of what always two hops take',
      value: cost(planned) / cost(two),
      unit: 'times',
      goal: 0.8,
      better: 'less',
      note: `${cost(planned).toFixed(1)} s instead of ${cost(two).toFixed(1)} s`,
    },
    {
      name: 'Air time for each delivered text, of what advice by the last hearing takes',
      value: cost(planned) / cost(last),
      unit: 'times',
      goal: 0.8,
      better: 'less',
      note: `${cost(planned).toFixed(1)} s instead of ${cost(last).toFixed(1)} s`,
    },
    {
      name: 'Share delivered, of the better of both',
      value: share(planned) / Math.max(share(two), share(last)),
      unit: 'times',
      goal: 1,
      better: 'more',
      note: `${percent(planned)}; always two hops ${percent(two)}, by the last hearing ${percent(last)}`,
    },
  ];
}
