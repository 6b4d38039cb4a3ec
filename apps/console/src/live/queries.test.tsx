import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { stationAnswers } from '../testing/render';
import { AT, heardStation, openSettings } from '../testing/samples';
import { useConnection } from './feed';
import { useLiveFeed } from './live-feed';
import { mergeStations, useChange, useChartAhead, useSettings, useStations, useStationsAhead } from './queries';
import { useTrails } from './trails';

class FakeSocket {
  static last: FakeSocket | null = null;
  onopen: (() => void) | null = null;
  onmessage: ((message: { data: string }) => void) | null = null;
  onclose: (() => void) | null = null;
  constructor() {
    FakeSocket.last = this;
  }
  close() {
    this.onclose?.();
  }
}
let seq = 0;
const tell = (type: string, data: unknown) =>
  act(() => FakeSocket.last!.onmessage?.({ data: JSON.stringify({ seq: ++seq, type, at: AT, data }) }));

function hook<T>(use: () => T) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  return { client, ...renderHook(use, { wrapper }) };
}
const later = (minutes: number) => new Date(Date.parse(AT) + minutes * 60_000).toISOString();

describe('stations that changed', () => {
  it('take the place of those before, the last heard first', () => {
    const before = [heardStation({ call: 'A', lastAt: later(2) }), heardStation({ call: 'B', lastAt: later(1) })];
    const merged = mergeStations(before, [heardStation({ call: 'B', lastAt: later(3) }), heardStation({ call: 'C' })]);
    expect(merged.map(({ call }) => call)).toEqual(['B', 'A', 'C']);
    expect(merged.find(({ call }) => call === 'B')?.lastAt).toBe(later(3));
    expect(mergeStations(before, [])).toEqual(before);
  });

  it('are asked for since the newest change that is known', async () => {
    const asked = stationAnswers({
      'GET /api/v1/stations': {
        body: [heardStation({ call: 'A', changedAt: later(1) }), heardStation({ call: 'B', changedAt: later(5) })],
      },
    });
    const { result } = hook(useStations);
    await waitFor(() => expect(result.current.data).toHaveLength(2));
    expect(asked.at(-1)?.path).toBe('/api/v1/stations');
    await act(() => result.current.refetch());
    expect(decodeURIComponent(asked.at(-1)!.path)).toBe(`/api/v1/stations?since=${later(5)}`);
    expect(result.current.data).toHaveLength(2);
  });

  const sixHours = async () => 6;
  const noTrails = async () => null;
  it('are loaded ahead, when the first screen has come to rest, and their trails behind them', async () => {
    jest.useFakeTimers();
    try {
      const asked = stationAnswers({ 'GET /api/v1/stations': { body: [] }, 'GET /api/v1/trails': { body: [] } });
      const { unmount } = hook(() => useStationsAhead(sixHours));
      act(() => void jest.advanceTimersByTime(1000));
      expect(asked).toEqual([]);
      await act(() => jest.advanceTimersByTimeAsync(1000));
      expect(asked.map(({ path }) => path)).toEqual(['/api/v1/stations', '/api/v1/trails?hours=6']);
      unmount();
    } finally {
      jest.useRealTimers();
    }
  });

  it('are loaded ahead without trails where none are shown', async () => {
    jest.useFakeTimers();
    try {
      const asked = stationAnswers({ 'GET /api/v1/stations': { body: [] } });
      const { unmount } = hook(() => useStationsAhead(noTrails));
      await act(() => jest.advanceTimersByTimeAsync(5000));
      expect(asked.map(({ path }) => path)).toEqual(['/api/v1/stations']);
      unmount();
    } finally {
      jest.useRealTimers();
    }
  });
});

describe('what a chart shows', () => {
  it('is asked for before it is drawn, and once', async () => {
    const asked = stationAnswers({ 'GET /api/v1/stations': { body: [] }, 'GET /api/v1/trails': { body: [] } });
    const { result } = hook(() => {
      useChartAhead(6);
      return { stations: useStations(), trails: useTrails(6) };
    });
    // At the first drawing, when nothing is mounted yet.
    expect(asked.map(({ path }) => path)).toEqual(['/api/v1/stations', '/api/v1/trails?hours=6']);
    await waitFor(() => expect(result.current.stations.isSuccess && result.current.trails.isSuccess).toBe(true));
    expect(asked).toHaveLength(2);
  });

  it('is the stations alone where trails are not shown', () => {
    const asked = stationAnswers({ 'GET /api/v1/stations': { body: [] } });
    hook(() => useChartAhead(null));
    expect(asked.map(({ path }) => path)).toEqual(['/api/v1/stations']);
  });
});

describe('what an event of the station makes stale', () => {
  const sockets = globalThis.WebSocket;
  beforeEach(() => {
    globalThis.WebSocket = FakeSocket as unknown as typeof WebSocket;
    useConnection.setState({ connected: false, lastSeq: null, storing: null });
  });
  afterEach(() => (globalThis.WebSocket = sockets));

  it('is loaded again at a measured pace, however many events come', async () => {
    const { client, unmount } = hook(useLiveFeed);
    const invalidated: string[] = [];
    const spy = jest.spyOn(client, 'invalidateQueries').mockImplementation(async (filters) => {
      invalidated.push(JSON.stringify(filters?.queryKey));
    });
    for (let n = 0; n < 200; n++) tell('packet', { id: String(n) });
    await waitFor(() => expect(invalidated).toContain('["stations"]'));
    expect(invalidated.filter((key) => key === '["packets"]')).toHaveLength(1);
    // What has its own pace does not wait behind the packets.
    tell('item', { id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3e' });
    await waitFor(() => expect(invalidated).toContain('["item","0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3e"]'));
    expect(invalidated).toContain('["items"]');
    tell('alarm', { call: 'QT5WX-13' });
    tell('session', { id: '0b7f3c52-8f9a-4a53-9a51-0d6a7a1b2c3d', bearerId: 'board' });
    await waitFor(() => expect(invalidated).toEqual(expect.arrayContaining(['["alarms"]', '["sessions","board"]'])));
    spy.mockRestore();
    unmount();
  });

  it('is everything once the connection is back, and the whole list of stations after a new place', async () => {
    const { client, unmount } = hook(useLiveFeed);
    const invalidate = jest.spyOn(client, 'invalidateQueries');
    const reset = jest.spyOn(client, 'resetQueries');
    act(() => FakeSocket.last!.onopen?.());
    act(() => useConnection.setState({ connected: false }));
    expect(invalidate).not.toHaveBeenCalled();
    act(() => FakeSocket.last!.onopen?.());
    expect(invalidate).toHaveBeenCalledWith();
    tell('settings', {});
    await waitFor(() => expect(reset).toHaveBeenCalledWith({ queryKey: ['stations'] }));
    unmount();
  });
});

describe('what an event of the station leaves as it is', () => {
  const sockets = globalThis.WebSocket;
  beforeEach(() => {
    globalThis.WebSocket = FakeSocket as unknown as typeof WebSocket;
    useConnection.setState({ connected: false, lastSeq: null, storing: null });
    jest.useFakeTimers();
  });
  afterEach(() => {
    globalThis.WebSocket = sockets;
    jest.useRealTimers();
  });
  const stores = (storing: boolean) =>
    tell('storing', storing ? STORES : { ...STORES, storing, since: AT, reason: 'the disk is full' });
  const STORES = { storing: true, since: null, reason: null, waiting: 0, lost: 0 };

  it('is what the first screen asks for: nothing is asked twice before it has come to rest, and nothing that was asked for later', () => {
    const { client, unmount } = hook(useLiveFeed);
    const stale = () => ['settings', 'trails', 'stations'].filter((key) => client.getQueryState([key])?.isInvalidated);
    client.setQueryData(['settings'], {});
    act(() => FakeSocket.last!.onopen?.());
    stores(true);
    // The station may still be about to tell this connection of changes.
    act(() => void jest.advanceTimersByTime(400));
    client.setQueryData(['trails'], { list: [], until: AT, wholeAtMs: 0 });
    act(() => void jest.advanceTimersByTime(600));
    client.setQueryData(['stations'], []);
    expect(stale()).toEqual([]);
    act(() => void jest.advanceTimersByTime(1000));
    expect(stale()).toEqual(['settings', 'trails']);
    // Of trails that changed meanwhile some may reach into the past.
    expect(client.getQueryData(['trails'])).toMatchObject({ until: null });
    unmount();
  });

  it('is asked for again when the station, which could not store, can', () => {
    const { client, unmount } = hook(useLiveFeed);
    const invalidate = jest.spyOn(client, 'invalidateQueries');
    stores(true);
    stores(false);
    expect(invalidate).not.toHaveBeenCalled();
    stores(true);
    expect(invalidate.mock.calls).toEqual([[]]);
    unmount();
  });
});

describe('a change', () => {
  it('is followed by loading what it touched', async () => {
    const asked = stationAnswers({ 'GET /api/v1/settings': { body: openSettings } });
    const { result } = hook(() => ({
      settings: useSettings(),
      change: useChange(async (n: number) => n + 1, ['settings']),
    }));
    await waitFor(() => expect(result.current.settings.data?.call).toBe('QT2AR'));
    const before = asked.length;
    await act(async () => expect(await result.current.change.mutateAsync(1)).toBe(2));
    await waitFor(() => expect(asked.length).toBe(before + 1));
  });
});
