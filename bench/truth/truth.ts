import { audit } from './audit';
import type { Figure } from '../figure';

/** A whole day, unless told otherwise. */
const MINUTES = Number(process.env.TOMBOLO_TRUTH_MINUTES ?? 24 * 60);
/** Station processes on the one database. */
const PROCESSES = Number(process.env.TOMBOLO_TRUTH_PROCESSES ?? 2);

/** How much of what the station claims was held against what happened, and how much of it did not. */
export async function truth(): Promise<Figure[]> {
  const { tally, items, transmissions, worldMinutes, restarts, once } = await audit(MINUTES, 'day', 5, {
    processes: PROCESSES,
  });
  const note = `${worldMinutes} min of the district at 60×, ${items} items, ${transmissions} transmissions, ${restarts} restarts, ${PROCESSES} processes; ${once}`;
  for (const { claim, where } of tally.untruths) console.error(`not so: ${claim} – ${where}`);
  return [
    {
      name: 'claims compared with the world',
      value: tally.claims,
      unit: 'claims',
      goal: 100_000,
      better: 'more',
      note,
    },
    {
      name: 'claims that are not so, plus one',
      value: tally.untruths.length + 1,
      unit: '',
      goal: 1,
      better: 'less',
      note,
    },
  ];
}
