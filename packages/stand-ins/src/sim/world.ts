import seedrandom from 'seedrandom';

/** A discrete-event clock. Nothing in the simulated world reads the time of the machine. */
export interface World {
  /** Simulated time, ms since 1970. */
  now(): number;
  /** Runs an action later; returns how to call it off. */
  after(delayMs: number, action: () => void): () => void;
  /** A stream of chance of its own, so that one part of the world does not disturb another. */
  random(name: string): () => number;
  /** Runs all events up to a time. */
  runUntil(timeMs: number): void;
  /** The time of the next event; Infinity when there is none. */
  nextAt(): number;
  readonly seed: string;
}

interface Event {
  readonly at: number;
  readonly order: number;
  action: (() => void) | null;
}

export function createWorld(startMs: number, seed: string): World {
  let now = startMs;
  let order = 0;
  // A binary heap by time, then by order of scheduling.
  const heap: Event[] = [];
  const before = (a: Event, b: Event) => a.at < b.at || (a.at === b.at && a.order < b.order);

  const push = (event: Event) => {
    let i = heap.push(event) - 1;
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if (!before(heap[i]!, heap[parent]!)) break;
      [heap[i], heap[parent]] = [heap[parent]!, heap[i]!];
      i = parent;
    }
  };
  const pop = (): Event => {
    const first = heap[0]!;
    const last = heap.pop()!;
    if (heap.length > 0) {
      heap[0] = last;
      for (let i = 0; ;) {
        const left = 2 * i + 1;
        const right = left + 1;
        let least = i;
        if (left < heap.length && before(heap[left]!, heap[least]!)) least = left;
        if (right < heap.length && before(heap[right]!, heap[least]!)) least = right;
        if (least === i) break;
        [heap[i], heap[least]] = [heap[least]!, heap[i]!];
        i = least;
      }
    }
    return first;
  };

  return {
    seed,
    now: () => now,
    after(delayMs, action) {
      const event: Event = { at: now + Math.max(0, delayMs), order: order++, action };
      push(event);
      return () => (event.action = null);
    },
    random: (name) => seedrandom(`${seed}/${name}`),
    runUntil(timeMs) {
      while (heap.length > 0 && heap[0]!.at <= timeMs) {
        const event = pop();
        now = event.at;
        event.action?.();
      }
      now = Math.max(now, timeMs);
    },
    nextAt: () => heap[0]?.at ?? Infinity,
  };
}

export type Speed = 1 | 10 | 60;

export interface Pacer {
  speed(): Speed;
  setSpeed(speed: Speed): void;
  /** Something from outside is about to act on the world: brings it up to now first. */
  touch(): void;
  stop(): void;
}

/**
 * Lets a world run at a multiple of real time. With `mostStepMs` (of real time) it does not make up for what a busy machine held it up
 * longer: it runs later then, and who lives by its clock sees no jump.
 */
export function pace(world: World, initial: Speed = 1, mostStepMs = Infinity): Pacer {
  let speed = initial;
  let realAt = Date.now();
  let worldAt = world.now();
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;

  const advance = () => {
    const atMs = Math.min(worldAt + (Date.now() - realAt) * speed, world.now() + mostStepMs * speed);
    world.runUntil(atMs);
    if (mostStepMs === Infinity) return;
    worldAt = world.now();
    realAt = Date.now();
  };
  const tick = () => {
    advance();
    const wait = Math.min(200, mostStepMs / 2, Math.max(1, (world.nextAt() - world.now()) / speed));
    timer = setTimeout(tick, wait);
  };
  const wake = () => {
    if (stopped) return;
    if (timer) clearTimeout(timer);
    tick();
  };
  tick();
  return {
    speed: () => speed,
    setSpeed(next) {
      advance();
      speed = next;
      realAt = Date.now();
      worldAt = world.now();
      wake();
    },
    touch() {
      advance();
      // Whatever is scheduled now must be seen by the timer.
      setImmediate(wake);
    },
    stop: () => {
      stopped = true;
      if (timer) clearTimeout(timer);
      timer = null;
    },
  };
}
