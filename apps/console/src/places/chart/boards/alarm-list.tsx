import type { Alarm } from '@tombolo/contract';
import { View } from 'react-native';
import { Instant } from '../../../ui/clock';
import { Icon } from '../../../ui/icon';
import { useLook } from '../../../ui/look';
import { Body, Heading, Mono } from '../../../ui/text';

const MOST = 5;

/** The latest alarms of some stations, seen or not. */
export function AlarmList({ alarms, calls }: { alarms: readonly Alarm[]; calls: ReadonlySet<string> }) {
  const look = useLook();
  const rows = alarms.filter(({ call }) => calls.has(call)).slice(0, MOST);
  if (rows.length === 0) return null;
  return (
    <View style={{ marginTop: 12 }}>
      <Heading level={2}>Alarms</Heading>
      <View role="list" aria-label="Alarms">
        {rows.map((alarm) => (
          <View
            role="listitem"
            key={alarm.id}
            style={{ flexDirection: 'row', gap: 10, flexWrap: 'wrap', paddingVertical: 6, alignItems: 'center' }}
          >
            <Icon
              name={alarm.seenAt ? 'bell-check-outline' : 'bell-alert-outline'}
              color={alarm.seenAt ? look.inkSoft : look.alarm}
            />
            <Mono bold>{alarm.call}</Mono>
            <Body style={{ flexShrink: 1 }}>{alarm.words}</Body>
            <Instant iso={alarm.at} />
            {alarm.takenBy ? (
              <Body soft>{`taken by ${alarm.takenBy}`}</Body>
            ) : alarm.seenAt ? (
              <Body soft>seen</Body>
            ) : null}
          </View>
        ))}
      </View>
    </View>
  );
}
