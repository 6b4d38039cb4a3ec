import { useEffect, useRef, useState } from 'react';

export interface Work<Told> {
  /** What was told last of what is asked now; null before. */
  readonly told: Told | null;
  /** Why it cannot be made; null where it can. */
  readonly fault: string | null;
}

/**
 * Asks a worker beside the page, anew whenever `asked` becomes another object; what is no longer asked is ended. Of what it tells the last
 * is kept. Nothing is asked while it is null.
 */
export function useWork<Asked, Told>(start: () => Worker, asked: Asked | null): Work<Told> {
  const [state, setState] = useState<{ asked: Asked; told: Told | null; fault: string | null }>();
  const starting = useRef(start);
  useEffect(() => {
    if (asked === null) return;
    const say = (told: Told | null, fault: string | null) => setState({ asked, told, fault });
    let worker: Worker;
    try {
      worker = starting.current();
    } catch {
      const later = setTimeout(() => say(null, 'this browser starts no worker for it'));
      return () => clearTimeout(later);
    }
    worker.onmessage = ({ data }: MessageEvent<Told>) => say(data, null);
    worker.onerror = () => say(null, 'what reckons could not be loaded, or failed: load the page anew');
    worker.postMessage(asked);
    return () => worker.terminate();
  }, [asked]);
  return state && state.asked === asked ? { told: state.told, fault: state.fault } : { told: null, fault: null };
}
