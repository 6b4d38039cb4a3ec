import { SIZES, startRig, type Rig, type Size } from './rig';

const NAMES = Object.keys(SIZES) as Size[];

/** A rig for each of the two layouts, and how to walk both at once. */
export interface BothSizes {
  /** Goes the same road on both at once; fails with what went wrong on either, under its name. */
  walk(road: (rig: Rig, size: Size) => Promise<void>): Promise<void>;
  stop(): Promise<void>;
}

/** For roads of which most is waiting for the air: together they take little longer than one. */
export async function startBothSizes(options: Parameters<typeof startRig>[0], settings: object): Promise<BothSizes> {
  const rigs = await Promise.all(NAMES.map(() => startRig(options)));
  await Promise.all(rigs.map((rig) => rig.api('/settings', { method: 'PATCH', body: settings })));
  return {
    async walk(road) {
      const outcomes = await Promise.allSettled(NAMES.map((size, i) => road(rigs[i]!, size)));
      const faults = outcomes.flatMap((outcome, i) =>
        outcome.status === 'rejected' ? [`on a ${NAMES[i]} screen: ${(outcome.reason as Error).stack}`] : [],
      );
      if (faults.length > 0) throw new Error(faults.join('\n\n'));
    },
    async stop() {
      await Promise.all(rigs.map((rig) => rig.stop()));
    },
  };
}
