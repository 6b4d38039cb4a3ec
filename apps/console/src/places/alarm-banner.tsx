import { View } from 'react-native';
import { api } from '../live/api';
import { useAlarms, useChange } from '../live/queries';
import { EmergencyBanner } from './emergency-banner';
import { useTimeWords } from '../live/preferences';
import { Button } from '../ui/button';
import { Icon } from '../ui/icon';
import { Row, Stack } from '../ui/layout';
import { useLook } from '../ui/look';
import { Body, Mono } from '../ui/text';

/** An alarm that nobody has seen yet, above whatever is open; a call for help before all others. */
export function AlarmBanner() {
  const timeWords = useTimeWords();
  const look = useLook();
  const alarms = useAlarms();
  const see = useChange((id: string) => api.seeAlarm(id), ['alarms']);
  const emergency = (alarms.data ?? []).find(({ kind, takenBy }) => kind === 'emergency' && takenBy === null);
  const unseen = (alarms.data ?? []).filter(({ kind, seenAt }) => kind === 'watch' && seenAt === null);
  const [alarm] = unseen;
  if (emergency) return <EmergencyBanner key={emergency.id} alarm={emergency} />;
  if (!alarm) return null;
  return (
    <View
      role="alert"
      style={{ padding: 10, gap: 6, borderBottomWidth: 2, borderBottomColor: look.alarm, backgroundColor: look.leaf }}
    >
      <Row gap={8} align="start">
        <Icon name="bell-alert-outline" color={look.alarm} />
        <Stack fill>
          <Mono bold style={{ color: look.alarm }}>
            {`${alarm.call}, ${timeWords(alarm.at)}`}
          </Mono>
          <Body>{alarm.words}</Body>
          {unseen.length > 1 ? <Body soft>{`and ${unseen.length - 1} more`}</Body> : null}
        </Stack>
      </Row>
      <Row gap={8}>
        <Button title="I have seen it" about={alarm.words} onPress={() => see.mutate(alarm.id)} busy={see.isPending} />
        <Button
          title="Show the station"
          about={alarm.call}
          kind="plain"
          href={`/chart/station?call=${encodeURIComponent(alarm.call)}`}
        />
      </Row>
    </View>
  );
}
