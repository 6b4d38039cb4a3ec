/** How far a stage of a session was when it was first looked at. */
export interface Begun {
  readonly stage: string;
  readonly octets: number;
  readonly atMs: number;
}

/** A pace is told after so long: before that one frame decides it. */
const LEAST_MS = 3000;

/** Seconds that the rest of a stage takes at the pace since it was first looked at; null while that is not known. */
export function secondsLeft(
  begun: Begun,
  { doneOctets, totalOctets }: { doneOctets: number; totalOctets: number },
  nowMs: number,
): number | null {
  const octets = doneOctets - begun.octets;
  const ms = nowMs - begun.atMs;
  if (octets <= 0 || ms < LEAST_MS || doneOctets >= totalOctets) return null;
  return ((totalOctets - doneOctets) * ms) / octets / 1000;
}
