import { useQuery } from '@tanstack/react-query';
import type { WaypointsNow } from '@tombolo/contract';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Instant } from '../../../ui/clock';
import { Stack } from '../../../ui/layout';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { LiveLinks } from './live-links';
import { outWords, ReceiverForm } from './receiver-form';

const EVERY_MS = 3000;

/** What is heard, for a navigation receiver and for programs that draw maps. */
export function PositionsOutPlace() {
  const now = useQuery({ queryKey: ['waypoints'], queryFn: api.waypointsNow, refetchInterval: EVERY_MS });
  return (
    <Page title="Positions out">
      <Heading level={2}>A navigation receiver</Heading>
      <Body soft below={8}>
        Whatever is heard with a place appears on it as a waypoint (NMEA 0183, WPL), and moves when it moves. Do not
        steer by it: a place is as old as the packet that told it.
      </Body>
      {now.isPending ? <Waiting what="the receiver" /> : null}
      {now.isError ? <Trouble error={now.error} retry={() => void now.refetch()} /> : null}
      {now.data ? <Receiver key={JSON.stringify(now.data.out)} now={now.data} /> : null}
      <Rule />
      <LiveLinks />
    </Page>
  );
}

function Receiver({ now }: { now: WaypointsNow }) {
  const stop = useChange(() => api.changeSettings({ waypointsOut: null }), ['settings', 'waypoints']);
  return (
    <View>
      <View aria-live="polite">
        {now.out ? (
          <>
            <Body bold>{outWords(now.out)}</Body>
            {now.link === 'up' ? (
              <Body>
                {now.given === 0 ? 'Connected; nothing to give yet.' : `${now.given} given, the last at `}
                {now.lastAt ? <Instant iso={now.lastAt} seconds /> : null}
              </Body>
            ) : (
              <Notice kind="alarm" title="It gets nothing">
                {now.reason ?? 'It is tried.'}
              </Notice>
            )}
          </>
        ) : (
          <Body>None gets anything now.</Body>
        )}
      </View>
      {now.out ? (
        <Stack align="start">
          <Button
            title="Give it nothing more"
            kind="plain"
            busy={stop.isPending}
            onPress={() => stop.mutate(undefined)}
          />
        </Stack>
      ) : null}
      {stop.isError ? (
        <Notice kind="alarm" title="Not changed">
          {stop.error.message}
        </Notice>
      ) : null}
      <ReceiverForm out={now.out} />
    </View>
  );
}
