/** I fields of at most `paclen` octets that wait, with more octets behind them: the last one is filled first. */
export function queuedBehind(waiting: readonly Uint8Array[], octets: Uint8Array, paclen: number): Uint8Array[] {
  const queue = [...waiting];
  let at = 0;
  const last = queue.at(-1);
  if (last && last.length < paclen) {
    at = Math.min(octets.length, paclen - last.length);
    const filled = new Uint8Array(last.length + at);
    filled.set(last);
    filled.set(octets.subarray(0, at), last.length);
    queue[queue.length - 1] = filled;
  }
  for (; at < octets.length; at += paclen) queue.push(octets.slice(at, at + paclen));
  return queue;
}
