import { z } from 'zod';
import { instant } from './traffic';

/** The simulated district, when one is attached. */
export const simulation = z.object({
  running: z.boolean(),
  speed: z.union([z.literal(1), z.literal(10), z.literal(60)]),
  simulatedAt: instant,
  seed: z.string(),
});
export type Simulation = z.infer<typeof simulation>;
export const simulationChange = simulation.pick({ speed: true });
