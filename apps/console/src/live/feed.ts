import { liveEvent, type LiveEvent, type Storing } from '@tombolo/contract';
import { reconnectDelayMs } from '@tombolo/core';
import { create } from 'zustand';

export interface Connection {
  readonly connected: boolean;
  /** The last event that was seen; the feed resumes behind it. */
  readonly lastSeq: number | null;
  /** Whether the station stores what it hears, as it last said; null until it has. */
  readonly storing: Storing | null;
}

export const useConnection = create<Connection>(() => ({ connected: false, lastSeq: null, storing: null }));

/**
 * Follows the station's live feed; when the connection breaks it is made again and resumes behind the last event.
 * Returns how to stop.
 */
export function followFeed(
  onEvent: (event: LiveEvent) => void,
  makeSocket: (url: string) => WebSocket = (url) => new WebSocket(url),
): () => void {
  let socket: WebSocket | null = null;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let failures = 0;
  let stopped = false;

  const open = () => {
    const { lastSeq } = useConnection.getState();
    const url = new URL('/api/v1/live', location.href);
    url.protocol = location.protocol === 'https:' ? 'wss:' : 'ws:';
    if (lastSeq !== null) url.searchParams.set('after', String(lastSeq));
    const current = makeSocket(url.href);
    socket = current;
    current.onopen = () => {
      failures = 0;
      useConnection.setState({ connected: true });
    };
    current.onmessage = (message: MessageEvent) => {
      const event = readEvent(message.data);
      if (!event) return;
      if (event.type === 'storing') {
        // It has no number of its own: what was missed is still to come.
        useConnection.setState({ storing: event.data });
        return onEvent(event);
      }
      useConnection.setState({ lastSeq: event.seq });
      onEvent(event);
    };
    current.onclose = () => {
      useConnection.setState({ connected: false });
      if (stopped) return;
      failures++;
      timer = setTimeout(open, Math.min(5000, reconnectDelayMs(failures, Math.random())));
    };
  };
  open();
  return () => {
    stopped = true;
    if (timer) clearTimeout(timer);
    socket?.close();
  };
}

function readEvent(data: unknown): LiveEvent | null {
  try {
    const parsed = liveEvent.safeParse(JSON.parse(String(data)));
    return parsed.success ? parsed.data : null;
  } catch {
    return null;
  }
}
