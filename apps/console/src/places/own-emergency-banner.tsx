import { useSettings } from '../live/queries';
import { useTimeWords } from '../live/preferences';
import { Banner } from '../ui/banner';
import { Button } from '../ui/button';
import { Body } from '../ui/text';

/** On every place while we call for help: nobody forgets that it goes out. */
export function OwnEmergencyBanner() {
  const timeWords = useTimeWords();
  const { emergency } = useSettings().data ?? {};
  if (!emergency) return null;
  return (
    <Banner
      icon="alert-octagram-outline"
      actions={<Button title="Show or end it" kind="plain" href="/tools/emergency" />}
    >
      <Body bold tone="alarm">
        {`${emergency.drill ? 'Drill: our call for help' : 'Our call for help'} goes out since ${timeWords(emergency.since)}`}
      </Body>
    </Banner>
  );
}
