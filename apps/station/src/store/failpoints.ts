/**
 * Places before and after each write and each send at which a test kills this process, without warning, as a power cut does:
 * `TOMBOLO_FAILPOINT=name@3` at the third time that `name` is passed. Unset, as always outside tests, nothing happens.
 */
const [wanted, hit] = (process.env.TOMBOLO_FAILPOINT ?? '').split('@');
let left = Number(hit ?? 1);

/** All there are, in the order of what happens. */
export const FAILPOINTS = [
  'queue:written',
  'queue:stored',
  'outbox:intended',
  'outbox:handed over',
  'outbox:recorded',
  'mesh:published',
  'session:intended',
  'board:given',
  'mail:given',
  'mail:answered',
  'session:answered',
  'session:recorded',
  'board:stored',
  'mail:stored',
  'ingest:heard',
  'ingest:written',
  'ingest:stored',
] as const;
export type Failpoint = (typeof FAILPOINTS)[number];

export function failpoint(name: Failpoint): void {
  if (wanted === '' || name !== wanted) return;
  left--;
  if (left === 0) process.kill(process.pid, 'SIGKILL');
}
