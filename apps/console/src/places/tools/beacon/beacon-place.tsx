import { sendsPackets, type BeaconNow, type Settings } from '@tombolo/contract';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useBeaconNow, useBearers, useChange, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Instant } from '../../../ui/clock';
import { Stack } from '../../../ui/layout';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { SentPositions } from '../position/sent-positions';
import { PlanForm } from './plan-form';
import { StatusPlan } from './status-plan';
import { schemeWords } from './written-plan';

/** How our position goes out by itself, and what that costs everybody. */
export function BeaconPlace() {
  const settings = useSettings();
  const bearers = useBearers();
  const beacon = useBeaconNow();
  const failed = [settings, bearers, beacon].find(({ isError }) => isError);
  const modem = bearers.data?.find((bearer) => bearer.enabled && sendsPackets(bearer.config));
  return (
    <Page title="Beacon">
      <Body soft below={12}>
        Your position, sent by the station itself. Everybody shares the channel: send what others cannot reckon, and no
        more. What was sent once may stay on the internet for good.
      </Body>
      {settings.isPending || bearers.isPending || beacon.isPending ? <Waiting what="the plan" /> : null}
      {failed?.error ? (
        <Trouble
          error={failed.error}
          retry={() => void Promise.all([settings.refetch(), bearers.refetch(), beacon.refetch()])}
        />
      ) : null}
      {beacon.data && settings.data ? <Running now={beacon.data} settings={settings.data} /> : null}
      {bearers.data && !modem ? (
        <Notice kind="alarm" title="No modem">
          <Body>No bearer that can transmit is set up.</Body>
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      {modem && settings.data && beacon.data ? (
        <PlanForm
          key={JSON.stringify(beacon.data.plan)}
          modem={modem}
          settings={settings.data}
          plan={beacon.data.plan}
        />
      ) : null}
      {modem && settings.data ? (
        <>
          <Rule />
          <StatusPlan key={JSON.stringify(settings.data.statusPlan)} settings={settings.data} modem={modem} />
        </>
      ) : null}
      <Rule />
      <SentPositions />
    </Page>
  );
}

function Running({ now, settings }: { now: BeaconNow; settings: Settings }) {
  const { plan, stopped, lastAt, nextBy } = now;
  const stop = useChange(() => api.changeSettings({ beacon: null }), ['settings', 'beacon']);
  return (
    <View aria-live="polite">
      <Heading level={2}>
        {plan ? (stopped ? 'The plan waits' : 'The plan runs') : 'Our position does not go out by itself'}
      </Heading>
      {plan ? <Body>{`${schemeWords(plan.scheme)}, over ${plan.path.join(',') || 'no digipeater'}`}</Body> : null}
      {plan && stopped ? <Notice kind="alarm" title={stopped} /> : null}
      {lastAt ? (
        <Body soft>
          {'The last position went out at '}
          <Instant iso={lastAt} />
        </Body>
      ) : null}
      {nextBy ? (
        <Body soft>
          {'The next one at the latest at '}
          <Instant iso={nextBy} />
        </Body>
      ) : null}
      {settings.positionSource.by === 'typed' && plan && plan.scheme.by !== 'time' ? (
        <Body soft>The position is typed in: while it does not change, the greatest interval holds.</Body>
      ) : null}
      {plan ? (
        <Stack align="start" above={8}>
          <Button title="Stop the beacon" kind="plain" busy={stop.isPending} onPress={() => stop.mutate(undefined)} />
        </Stack>
      ) : null}
      {stop.isError ? (
        <Notice kind="alarm" title="Not stopped">
          {stop.error.message}
        </Notice>
      ) : null}
    </View>
  );
}
