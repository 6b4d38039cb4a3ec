import type { HourSeen } from './evidence-weight';

/**
 * What one packet tells that somebody else repeated: that this one did not hear it – or that it was busy, heard the repeat and kept silent,
 * or is not asked by that path. It counts for so much of one that was proved not to be heard (common practice, no source).
 */
const PASSED_OVER = 0.3;

const heardIn = ({ heard, inferred }: HourSeen): number => heard + inferred;

/**
 * The hours of a station and a repeater, with what the repeater passed over counted as part of a miss: what another one repeated and it did
 * not, only while it was heard here, and by how surely what it repeats is heard here.
 * @param own what it repeated first-hand of that station
 * @param others what each of the others repeated first-hand of it
 * @param here how the repeater itself is heard here
 */
export function withPassedOver(
  own: readonly HourSeen[],
  others: readonly (readonly HourSeen[])[],
  here: readonly HourSeen[],
): HourSeen[] {
  const most = new Map<number, number>();
  for (const hour of others.flat()) most.set(hour.atMs, Math.max(most.get(hour.atMs) ?? 0, heardIn(hour)));
  const ownAt = new Map(own.map((hour) => [hour.atMs, hour]));
  const hereAt = new Map(here.map((hour) => [hour.atMs, hour]));
  return [...new Set([...ownAt.keys(), ...most.keys()])].flatMap((atMs) => {
    const itself = ownAt.get(atMs) ?? { atMs, heard: 0, inferred: 0, missed: 0 };
    const alive = hereAt.get(atMs);
    const surely = alive && heardIn(alive) > 0 ? heardIn(alive) / (heardIn(alive) + alive.missed) : 0;
    const over = Math.max(0, (most.get(atMs) ?? 0) - heardIn(itself)) * PASSED_OVER * surely;
    return over > 0 || ownAt.has(atMs) ? [{ ...itself, missed: itself.missed + over }] : [];
  });
}
