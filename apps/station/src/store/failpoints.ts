/**
 * Places before and after each write and each send at which a test kills this process, without warning, as a power cut does:
 * `TOMBOLO_FAILPOINT=name@3` at the third time that `name` is passed. Unset, as always outside tests, nothing happens.
 */
const [wanted, hit] = (process.env.TOMBOLO_FAILPOINT ?? '').split('@');
let left = Number(hit ?? 1);

export function failpoint(name: string): void {
  if (wanted === '' || name !== wanted) return;
  left--;
  if (left === 0) process.kill(process.pid, 'SIGKILL');
}
