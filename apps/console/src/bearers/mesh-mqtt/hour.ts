import { meshAirTimeMs, meshTextFrameOctets, type MeshRadio } from '@tombolo/core';
import type { BearerConfig, BearerView } from '@tombolo/contract';

export type MeshConfig = Extract<BearerConfig, { kind: 'mesh-mqtt' }>;
type Duty = NonNullable<BearerView['duty']>;

const seconds = (ms: number): string => (ms / 1000).toFixed(1);

/** What is left of the hour's air time, ms; null where no limit is known. */
export const leftOfHourMs = ({ usedMs, mostMs }: Duty): number | null =>
  mostMs === null ? null : Math.max(0, mostMs - usedMs);

/** What was used of the hour's air time, and what is left. */
export function hourWords(duty: Duty): string {
  const left = leftOfHourMs(duty);
  return left === null
    ? `${seconds(duty.usedMs)} s on the air in the last hour; no limit is known for ${duty.subBand}`
    : `${seconds(duty.usedMs)} s on the air in the last hour, ${seconds(left)} of ${seconds(duty.mostMs!)} s left in ${duty.subBand}`;
}

/** A text of middling length, by which settings are compared. */
const COMPARED = 'x'.repeat(50);

/** How long that text is on the air, in seconds. */
export const comparedAirS = (radio: Omit<MeshRadio, 'frequencyHz'>, sealed: boolean): string =>
  (meshAirTimeMs(meshTextFrameOctets(COMPARED, sealed), radio) / 1000).toFixed(2);
