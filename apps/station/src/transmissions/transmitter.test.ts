import { airTimeMs, DEFAULT_TIMING } from '@tombolo/core';
import type { Taken } from './taken';
import { createTransmitter } from './transmitter';

const frame = (n: number) => new Uint8Array(40).fill(n);
const msOf = (n: number) => airTimeMs(frame(n), DEFAULT_TIMING);
const settled = () => new Promise((resolve) => setImmediate(resolve));

/** A transmitter by a clock that stands until it is moved. */
function rig(verdict: Taken['verdict'] = 'given') {
  const state = { nowMs: 1_000_000, verdict };
  const transmitter = createTransmitter({
    now: () => state.nowMs,
    timing: () => DEFAULT_TIMING,
    closed: () => null,
    held: () => false,
    write: async () => ({ verdict: state.verdict, words: '' }) as Taken,
  });
  return { state, transmitter };
}

describe('what was sent for connections', () => {
  it('is known by its air time for as long as a load is told of, and attempts are not counted with it', async () => {
    const { state, transmitter } = rig();
    const began = state.nowMs;
    transmitter.later(frame(1), 'to a board');
    await transmitter.now(frame(2), 'a text');
    await settled();
    expect(transmitter.connectionsMs(began - 1)).toBeCloseTo(msOf(1), 6);
    state.nowMs += 60_000;
    transmitter.later(frame(3), 'to a board');
    await settled();
    expect(transmitter.connectionsMs(began - 1)).toBeCloseTo(msOf(1) + msOf(3), 6);
    expect(transmitter.connectionsMs(began)).toBeCloseTo(msOf(3), 6);
    transmitter.stop();
  });

  it('is nothing on another frequency, and nothing where the equipment did not take it', async () => {
    const { state, transmitter } = rig();
    transmitter.later(frame(1), 'to a board');
    await settled();
    transmitter.retuned();
    expect(transmitter.connectionsMs(0)).toBe(0);
    state.verdict = 'not taken';
    state.nowMs += 60_000;
    transmitter.later(frame(2), 'to a board');
    await settled();
    expect(transmitter.connectionsMs(0)).toBe(0);
    transmitter.stop();
  });
});

describe('a connection that fills the channel', () => {
  it('gives way to what is urgent: no frame of it more is handed over, and none is lost', async () => {
    jest.useFakeTimers({ doNotFake: ['setImmediate'] });
    try {
      const { state, transmitter } = rig();
      const pass = async (ms: number) => {
        for (let passed = 0; passed < ms; passed += 100) {
          state.nowMs += 100;
          jest.advanceTimersByTime(100);
        }
        await settled();
      };
      for (let n = 0; n < 60; n++) transmitter.later(frame(n), 'to a board');
      const ahead = transmitter.waiting();
      expect(ahead).toBeGreaterThan(0);
      // While nothing is urgent, the channel stays taken as far ahead as before.
      await pass(2000);
      expect(transmitter.waiting()).toBeLessThan(ahead);
      expect(transmitter.freeAtMs(false)).toBeGreaterThan(state.nowMs + 7000);
      const before = transmitter.waiting();
      transmitter.giveWay(state.nowMs + 9000);
      await pass(8900);
      expect(transmitter.waiting()).toBe(before);
      expect(transmitter.freeAtMs(false)).toBeLessThanOrEqual(state.nowMs + 500);
      await pass(1000);
      expect(transmitter.waiting()).toBeLessThan(before);
      transmitter.stop();
    } finally {
      jest.useRealTimers();
    }
  });
});
