/** Time as a connection needs it: of the machine, or of a simulated world. */
export interface Clock {
  now(): number;
  /** Runs an action later; returns how to call it off. */
  after(delayMs: number, action: () => void): () => void;
}

export const machineClock: Clock = {
  now: () => Date.now(),
  after(delayMs, action) {
    const timer = setTimeout(action, delayMs);
    // What is left of a connection does not keep a program running that has nothing else to do.
    timer.unref();
    return () => clearTimeout(timer);
  },
};
