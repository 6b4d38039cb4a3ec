import { router } from 'expo-router';
import { useEffect, useRef } from 'react';
import { usePreferences } from '../../live/preferences';
import { useBearers, useSettings } from '../../live/queries';
import { isNew } from './steps';

/**
 * Leads whoever opens a station of which nobody has told anything to its first steps: once for each load, and never away from a place that was
 * asked for. The first screen does not wait for it, and of a station that has a call nothing more is asked.
 */
export function FirstTime({ path }: { path: string }) {
  const over = usePreferences(({ firstStepsOver }) => firstStepsOver);
  const settings = useSettings().data;
  return !over && path === '/traffic' && settings && isNew(settings, []) ? <WithoutBearers /> : null;
}

function WithoutBearers() {
  const bearers = useBearers().data;
  const looked = useRef(false);
  useEffect(() => {
    if (looked.current || !bearers) return;
    looked.current = true;
    if (bearers.length === 0) router.replace('/start');
  }, [bearers]);
  return null;
}
