import { useConnection } from '../live/feed';
import { useTimeWords } from '../live/preferences';
import { Banner } from '../ui/banner';
import { Body } from '../ui/text';

/** Said at once on every place: what is heard now is not in the log yet. */
export function NotStoring() {
  const timeWords = useTimeWords();
  const storing = useConnection((state) => state.storing);
  if (!storing || storing.storing || storing.since === null) return null;
  const waits = storing.waiting === 1 ? '1 reception waits' : `${storing.waiting} receptions wait`;
  return (
    <Banner icon="database-off-outline">
      <Body bold tone="alarm">{`Not storing since ${timeWords(storing.since)}`}</Body>
      <Body>
        {`Reason: ${storing.reason ?? 'not known'}. No text is sent meanwhile. What is heard is kept and stored later; ${waits}.`}
        {storing.lost > 0 ? ` For ${storing.lost} more there was no room: they are lost.` : ''}
      </Body>
    </Banner>
  );
}
