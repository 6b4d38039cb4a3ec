import type { LinkFrame } from '../link-frame';
import { LINK_DEFAULTS, linkDown, type LinkParameters, type LinkState } from '../link-state';
import type { LinkEvent, LinkIndication, LinkTimer } from '../events';
import { stepLink } from '../step';

/** What the channel does to one frame: lose it, hold it up, bring it twice. Frames of one direction stay in order. */
export interface Weather {
  (frame: LinkFrame): { readonly lost: boolean; readonly delayMs: number; readonly twice: boolean };
}

export interface End {
  state: LinkState;
  readonly received: number[];
  readonly indications: LinkIndication[];
  readonly sentFrames: LinkFrame[];
  give(event: LinkEvent): void;
}

interface Due {
  readonly atMs: number;
  readonly order: number;
  readonly run: () => void;
}

/** Two machines against each other over a channel with weather, under a clock of their own. */
export function linkPair(weather: Weather, parameters: Partial<LinkParameters> = {}) {
  const p = { ...LINK_DEFAULTS, ...parameters };
  let nowMs = 0;
  let order = 0;
  let due: Due[] = [];
  const at = (atMs: number, run: () => void): Due => {
    const entry = { atMs, order: order++, run };
    due.push(entry);
    return entry;
  };

  const makeEnd = (): End & { peer?: End } => {
    const timers = new Map<LinkTimer, Due>();
    /** The last arrival at the other side: what is sent later arrives later. */
    let lastArrival = 0;
    const end: End & { peer?: End } = {
      state: linkDown(p),
      received: [],
      indications: [],
      sentFrames: [],
      give(event) {
        const outcome = stepLink(end.state, event, p, nowMs);
        end.state = outcome.state;
        for (const { timer, afterMs } of outcome.timers) {
          const running = timers.get(timer);
          if (running) due = due.filter((entry) => entry !== running);
          timers.delete(timer);
          if (afterMs === null) continue;
          timers.set(
            timer,
            at(nowMs + afterMs, () => {
              timers.delete(timer);
              end.give({ kind: 'timer', timer });
            }),
          );
        }
        for (const indication of outcome.indications) {
          end.indications.push(indication);
          if (indication.kind === 'data') end.received.push(...indication.octets);
        }
        for (const frame of outcome.frames) {
          end.sentFrames.push(frame);
          const { lost, delayMs, twice } = weather(frame);
          if (lost) continue;
          lastArrival = Math.max(lastArrival, nowMs + delayMs);
          for (let copy = 0; copy < (twice ? 2 : 1); copy++)
            at(lastArrival, () => end.peer!.give({ kind: 'frame', frame }));
        }
      },
    };
    return end;
  };
  const a = makeEnd();
  const b = makeEnd();
  a.peer = b;
  b.peer = a;
  return {
    a: a as End,
    b: b as End,
    now: () => nowMs,
    /** Runs until nothing is due before `untilMs`, or the condition holds. */
    run(untilMs: number, enough: () => boolean = () => false) {
      while (due.length > 0 && !enough()) {
        const next = due.reduce((first, entry) =>
          entry.atMs < first.atMs || (entry.atMs === first.atMs && entry.order < first.order) ? entry : first,
        );
        if (next.atMs > untilMs) break;
        due = due.filter((entry) => entry !== next);
        nowMs = next.atMs;
        next.run();
      }
    },
  };
}

export const calm: Weather = () => ({ lost: false, delayMs: 100, twice: false });

/** A small repeatable source of chance (mulberry32), so that a failing schedule can be told by its seed. */
export function chanceOf(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
