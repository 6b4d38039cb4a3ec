import type { BeaconScheme, TrackPoint } from '@tombolo/core';
import { useEffect, useState } from 'react';
import type { ComparedScheme } from './compared';
import { comparisonWorker } from './comparison-worker';

export interface Comparison {
  readonly rows: readonly ComparedScheme[];
  /** Schemes that are not told of yet. */
  readonly left: number;
  /** Why it cannot be made; null where it can. */
  readonly fault: string | null;
}

/** Compares schemes on a track beside the page; anew when either changes, and what is no longer asked is ended. */
export function useComparison(schemes: readonly BeaconScheme[], track: readonly TrackPoint[]): Comparison {
  // What is typed elsewhere in the form changes nothing here.
  const asked = JSON.stringify(schemes);
  const [told, setTold] = useState<{ asked: string; track: unknown; rows: ComparedScheme[]; fault: string | null }>();
  useEffect(() => {
    const rows: ComparedScheme[] = [];
    const tell = (fault: string | null) => setTold({ asked, track, rows: [...rows], fault });
    let worker: Worker;
    try {
      worker = comparisonWorker();
    } catch {
      const later = setTimeout(() => tell('this browser starts no worker for it'));
      return () => clearTimeout(later);
    }
    worker.onmessage = ({ data }: MessageEvent<ComparedScheme>) => {
      rows.push(data);
      tell(null);
    };
    worker.onerror = () => tell('what compares could not be loaded: load the page anew');
    worker.postMessage({ schemes: JSON.parse(asked) as BeaconScheme[], track });
    return () => worker.terminate();
  }, [asked, track]);
  const now = told?.asked === asked && told.track === track ? told : null;
  return { rows: now?.rows ?? [], left: schemes.length - (now?.rows.length ?? 0), fault: now?.fault ?? null };
}
