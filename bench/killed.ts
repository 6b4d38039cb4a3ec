import { FAILPOINTS } from '../apps/station/src/store/failpoints';
import { hitOf, killTrial, type Trial } from '../apps/station/src/testing/kill-rig';
import type { Figure } from './figure';

/** TOMBOLO_KILLS=1000 hits every failpoint some sixty times; the default keeps the benchmark within minutes. */
const KILLS = Number(process.env.TOMBOLO_KILLS ?? 34);
const AT_ONCE = 4;

/** Kills at every failpoint in turn, with other hits each round, and counts what did not hold. */
export async function killed(): Promise<Figure[]> {
  const trials: Trial[] = [];
  let failed = 0;
  let next = 0;
  const worker = async () => {
    while (next < KILLS) {
      const n = next++;
      const failpoint = FAILPOINTS[n % FAILPOINTS.length]!;
      const trial = await killTrial(failpoint, hitOf(failpoint, Math.floor(n / FAILPOINTS.length))).catch(
        (error: Error) => void console.error(`${failpoint}: ${error.message}`, failed++),
      );
      if (!trial) continue;
      trials.push(trial);
      const wrong = [trial.lost, trial.doubled, trial.stuck, trial.overClaimed].flat();
      if (wrong.length > 0) console.error(`${failpoint}, hit ${trial.hit}: ${JSON.stringify(trial)}`);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, worker));
  const count = (of: (trial: Trial) => string[]) => trials.reduce((sum, trial) => sum + of(trial).length, 0);
  const wrong = [
    count(({ lost }) => lost),
    count(({ doubled }) => doubled),
    count(({ stuck }) => stuck),
    count(({ overClaimed }) => overClaimed),
  ];
  return [
    {
      name: 'Kills that held',
      value: trials.filter((t) => [t.lost, t.doubled, t.stuck, t.overClaimed].every((list) => list.length === 0))
        .length,
      unit: 'trials',
      goal: KILLS,
      better: 'more',
      note: `${trials.filter((trial) => trial.killed).length} killed of ${KILLS} at ${FAILPOINTS.length} failpoints: ${wrong[0]} lost, ${wrong[1]} doubled, ${wrong[2]} stuck, ${wrong[3]} over-claimed; ${failed} trials did not come to an end`,
    },
  ];
}
