/** What begins once and ends once, with all that belongs to it. */
export interface Life {
  /** From the moment its end was asked for: nothing new is begun. */
  readonly over: boolean;
  /** Does this again and again as long as it lasts. */
  every(ms: number, work: () => void): void;
  /** Does this at its end; what was said last comes first. Said afterwards, it is done at once. */
  atEnd(work: () => unknown): void;
  /** Ends it, once, however often it is asked for; everybody who asks waits for all of it. */
  end(): Promise<void>;
}

/** A life that begins now. */
export function createLife(): Life {
  const endings: (() => unknown)[] = [];
  let ended: Promise<void> | null = null;
  const endAll = async () => {
    const failures: unknown[] = [];
    for (let work = endings.pop(); work; work = endings.pop())
      try {
        await work();
      } catch (failure) {
        // One that fails keeps no other from its end.
        failures.push(failure);
      }
    if (failures.length > 0) throw failures[0];
  };
  const life: Life = {
    get over() {
      return ended !== null;
    },
    every(ms, work) {
      if (life.over) return;
      const timer = setInterval(work, ms);
      life.atEnd(() => clearInterval(timer));
    },
    atEnd(work) {
      if (life.over) void work();
      else endings.push(work);
    },
    end() {
      if (!ended) {
        // Over before the first ending is done, so that whoever looks meanwhile begins nothing.
        let go: () => void = () => undefined;
        ended = new Promise<void>((resolve) => (go = resolve)).then(endAll);
        go();
      }
      return ended;
    },
  };
  return life;
}
