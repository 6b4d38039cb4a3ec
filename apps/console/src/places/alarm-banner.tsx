import { api } from '../live/api';
import { useAlarms, useChange } from '../live/queries';
import { EmergencyBanner } from './emergency-banner';
import { ShowStation } from './show-station';
import { useTimeWords } from '../live/preferences';
import { Banner } from '../ui/banner';
import { Button } from '../ui/button';
import { Row } from '../ui/layout';
import { Body, Mono } from '../ui/text';

/** An alarm that nobody has seen yet, above whatever is open; a call for help before all others. */
export function AlarmBanner() {
  const timeWords = useTimeWords();
  const alarms = useAlarms();
  const see = useChange((id: string) => api.seeAlarm(id), ['alarms']);
  const emergency = (alarms.data ?? []).find(({ kind, takenBy }) => kind === 'emergency' && takenBy === null);
  const unseen = (alarms.data ?? []).filter(({ kind, seenAt }) => kind === 'watch' && seenAt === null);
  const [alarm] = unseen;
  if (emergency) return <EmergencyBanner key={emergency.id} alarm={emergency} />;
  if (!alarm) return null;
  return (
    <Banner
      icon="bell-alert-outline"
      actions={
        <Row gap={8}>
          <Button
            title="I have seen it"
            about={alarm.words}
            onPress={() => see.mutate(alarm.id)}
            busy={see.isPending}
          />
          <ShowStation call={alarm.call} />
        </Row>
      }
    >
      <Mono bold tone="alarm">
        {`${alarm.call}, ${timeWords(alarm.at)}`}
      </Mono>
      <Body>{alarm.words}</Body>
      {unseen.length > 1 ? <Body soft>{`and ${unseen.length - 1} more`}</Body> : null}
    </Banner>
  );
}
