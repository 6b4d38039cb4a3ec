import { router } from 'expo-router';
import { useEffect, useRef } from 'react';
import { usePreferences } from '../../live/preferences';
import { useBearers, useSettings } from '../../live/queries';
import { isNew } from './steps';

/**
 * Leads whoever opens a station of which nobody has told anything to its first steps: once for each load, and never away from a place that was
 * asked for. The first screen does not wait for it.
 */
export function useFirstTime(path: string): void {
  const over = usePreferences(({ firstStepsOver }) => firstStepsOver);
  const settings = useSettings().data;
  const bearers = useBearers().data;
  const looked = useRef(false);
  useEffect(() => {
    if (looked.current || !settings || !bearers) return;
    looked.current = true;
    if (!over && path === '/traffic' && isNew(settings, bearers)) router.replace('/start');
  }, [over, path, settings, bearers]);
}
