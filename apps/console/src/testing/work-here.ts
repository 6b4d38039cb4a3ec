import { act, waitFor } from '@testing-library/react';

/** A worker of these tests: what it would do beside the page is done here, step by step. */
export interface WorkHere extends Pick<Worker, 'postMessage' | 'terminate'> {
  onmessage: ((event: MessageEvent) => void) | null;
  onerror: ((event: ErrorEvent) => void) | null;
  readonly ended: boolean;
  /** Waits until something is asked of it. */
  asked(): Promise<void>;
  /** Tells so many of its messages; whether there may be more. */
  step(messages: number): Promise<boolean>;
  run(): Promise<void>;
  fail(): void;
}

export function workHere<Asked, Told>(work: (asked: Asked) => Generator<Told>): WorkHere {
  let messages: Generator<Told> | null = null;
  let ended = false;
  const worker: WorkHere = {
    onmessage: null,
    onerror: null,
    get ended() {
      return ended;
    },
    postMessage: (asked: unknown) => void (messages = work(asked as Asked)),
    terminate: () => void (ended = true),
    asked: () => waitFor(() => expect(messages).not.toBeNull()),
    async step(count) {
      await worker.asked();
      for (let n = 0; n < count && !ended; n++) {
        const next = messages!.next();
        if (next.done) return false;
        act(() => worker.onmessage?.({ data: next.value } as MessageEvent));
      }
      return true;
    },
    async run() {
      while (!ended && (await worker.step(20)));
    },
    fail: () => act(() => worker.onerror?.({} as ErrorEvent)),
  };
  return worker;
}
