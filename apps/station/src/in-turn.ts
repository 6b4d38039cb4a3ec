export interface InTurn {
  /** Does this when everything before it has ended, well or not; gives what it gave. */
  <T>(work: () => Promise<T>): Promise<T>;
  /** When all that was asked for so far has ended. */
  idle(): Promise<void>;
}

/** One thing after the other, in the order in which they were asked for. */
export function createInTurn(): InTurn {
  let last: Promise<unknown> = Promise.resolve();
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const mine = last.then(work);
    // Who asked learns of a failure; the next in turn has nothing to do with it.
    last = mine.catch(() => undefined);
    return mine;
  };
  return Object.assign(inTurn, { idle: () => last.then(() => undefined) });
}
