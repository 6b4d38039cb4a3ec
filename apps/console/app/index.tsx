import { Redirect } from 'expo-router';
import { usePreferences } from '../src/live/preferences';
import { useBearers, useSettings } from '../src/live/queries';
import { isNew } from '../src/places/start/steps';

export { ErrorBoundary } from '../src/places/boundary';

/** A station of which nobody has told anything is led through its first steps, once. */
export default function Start() {
  const over = usePreferences(({ firstStepsOver }) => firstStepsOver);
  const settings = useSettings();
  const bearers = useBearers();
  if (over || settings.isError || bearers.isError) return <Redirect href="/traffic" />;
  if (!settings.data || !bearers.data) return null;
  return <Redirect href={isNew(settings.data, bearers.data) ? '/start' : '/traffic'} />;
}
