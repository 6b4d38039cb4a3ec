import type { Alarm } from '@tombolo/contract';
import { View } from 'react-native';
import { Instant } from '../../../ui/clock';
import { Icon } from '../../../ui/icon';
import { Row, Stack } from '../../../ui/layout';
import { useLook } from '../../../ui/look';
import { Body, Heading, Mono } from '../../../ui/text';

const MOST = 5;

/** The latest alarms of some stations, seen or not. */
export function AlarmList({ alarms, calls }: { alarms: readonly Alarm[]; calls: ReadonlySet<string> }) {
  const look = useLook();
  const rows = alarms.filter(({ call }) => calls.has(call)).slice(0, MOST);
  if (rows.length === 0) return null;
  return (
    <Stack above={12}>
      <Heading level={2}>Alarms</Heading>
      <View role="list" aria-label="Alarms">
        {rows.map((alarm) => (
          <Row role="listitem" key={alarm.id} gap={10} wrap padY={6} align="center">
            <Icon
              name={alarm.seenAt ? 'bell-check-outline' : 'bell-alert-outline'}
              color={alarm.seenAt ? look.inkSoft : look.alarm}
            />
            <Mono bold>{alarm.call}</Mono>
            <Body shrink={1}>{alarm.words}</Body>
            <Instant iso={alarm.at} />
            {alarm.takenBy ? (
              <Body soft>{`taken by ${alarm.takenBy}`}</Body>
            ) : alarm.seenAt ? (
              <Body soft>seen</Body>
            ) : null}
          </Row>
        ))}
      </View>
    </Stack>
  );
}
