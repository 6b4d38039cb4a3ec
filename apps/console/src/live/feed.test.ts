import { act } from '@testing-library/react';
import type { LiveEvent } from '@tombolo/contract';
import { followFeed, useConnection } from './feed';

class FakeSocket {
  static all: FakeSocket[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((message: { data: string }) => void) | null = null;
  onclose: (() => void) | null = null;
  constructor(readonly url: string) {
    FakeSocket.all.push(this);
  }
  close() {
    this.onclose?.();
  }
}
const last = () => FakeSocket.all.at(-1)!;
const tell = (socket: FakeSocket, event: unknown) => socket.onmessage?.({ data: JSON.stringify(event) });

describe('the live feed', () => {
  beforeEach(() => {
    jest.useFakeTimers();
    FakeSocket.all = [];
    useConnection.setState({ connected: false, lastSeq: null });
  });
  afterEach(() => jest.useRealTimers());

  it('connects again after a cut and resumes behind the last event', () => {
    const seen: LiveEvent[] = [];
    const stop = followFeed(
      (event) => seen.push(event),
      (url) => new FakeSocket(url) as unknown as WebSocket,
    );
    expect(last().url).toMatch(/\/api\/v1\/live$/);
    act(() => last().onopen?.());
    expect(useConnection.getState().connected).toBe(true);
    act(() => tell(last(), { seq: 41, type: 'packet', at: '2026-11-25T14:05:00.000Z', data: { id: '7' } }));
    expect(seen.map((event) => event.seq)).toEqual([41]);

    act(() => last().onclose?.());
    expect(useConnection.getState().connected).toBe(false);
    expect(FakeSocket.all).toHaveLength(1);
    act(() => void jest.advanceTimersByTime(6000));
    expect(FakeSocket.all).toHaveLength(2);
    expect(last().url).toMatch(/\/live\?after=41$/);
    stop();
    act(() => void jest.advanceTimersByTime(60_000));
    expect(FakeSocket.all).toHaveLength(2);
  });

  it('ignores what is no event', () => {
    const seen: LiveEvent[] = [];
    const stop = followFeed(
      (event) => seen.push(event),
      (url) => new FakeSocket(url) as unknown as WebSocket,
    );
    act(() => {
      last().onmessage?.({ data: '{' });
      tell(last(), { seq: 'x', type: 'packet' });
      tell(last(), { seq: 1, type: 'nonsense', at: '2026-11-25T14:05:00.000Z', data: {} });
    });
    expect(seen).toEqual([]);
    expect(useConnection.getState().lastSeq).toBeNull();
    stop();
  });
});
