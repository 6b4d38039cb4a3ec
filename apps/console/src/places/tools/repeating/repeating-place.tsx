import { useQuery } from '@tanstack/react-query';
import { locksOf, sendsPackets, type RepeatingNow, type Settings } from '@tombolo/contract';
import { relayRoutes } from '@tombolo/contract/routes/relays';
import { counted } from '@tombolo/core';
import { router } from 'expo-router';
import { View } from 'react-native';
import { TransmitQuestions } from '../../../bearers/transmit-questions';
import { api } from '../../../live/api';
import { ask } from '../../../live/ask';
import { useBearers, useChange, useSettings, useTransmissions } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { TermHelp } from '../../../ui/terms';
import { Body, Heading, Mono } from '../../../ui/text';
import { TransmissionRow } from '../../log/transmission-row';
import { RepeatingForm } from './repeating-form';

const EVERY_MS = 5000;

/** Repeating for others: whether it would help, turning it on, and what was repeated. */
export function RepeatingPlace() {
  const settings = useSettings();
  const now = useQuery({
    queryKey: ['repeating'],
    queryFn: () => ask(relayRoutes.repeatingNow, {}),
    refetchInterval: EVERY_MS,
  });
  const failed = [settings, now].find(({ isError }) => isError);
  return (
    <Page title="Repeating">
      <Body soft below={8}>
        As a fill-in this station passes on, once, packets whose path asks for WIDE1-1 or for its own call: for those
        whom no digipeater hears. Where one does hear them it only loads the channel of everybody.
      </Body>
      <TermHelp term="digipeater" />
      {settings.isPending || now.isPending ? <Waiting what="who is heard by whom" /> : null}
      {failed?.error ? (
        <Trouble error={failed.error} retry={() => void Promise.all([settings.refetch(), now.refetch()])} />
      ) : null}
      {settings.data && now.data ? <Repeating settings={settings.data} now={now.data} /> : null}
      <Rule />
      <Repeated />
    </Page>
  );
}

const VERDICTS = {
  helps: (n: number) =>
    `${counted(n, 'station')} heard here directly, and by no digipeater as far as copies show: repeating may help.`,
  loads: () =>
    'Every station that is heard here directly is heard by a digipeater too: repeating would only load the channel.',
  unknown: () => 'Too few stations were heard directly in the last 24 h to tell whether it would help anybody.',
} as const;

function Advice({ advice: { verdict, unheard, served } }: Pick<RepeatingNow, 'advice'>) {
  return (
    <Stack around={8} gap={4}>
      <Heading level={2}>Would it help?</Heading>
      <Body>{VERDICTS[verdict](unheard.length)}</Body>
      {unheard.length > 0 ? (
        <Body>
          {'Heard by no digipeater: '}
          <Mono>{unheard.join(', ')}</Mono>
        </Body>
      ) : null}
      {served.length > 0 ? (
        <Body soft>
          {'Heard by one too: '}
          <Mono soft>{served.join(', ')}</Mono>
        </Body>
      ) : null}
      <Body soft>That nobody was heard passing a station on is no proof that nobody hears it.</Body>
    </Stack>
  );
}

function Repeating({ settings, now }: { settings: Settings; now: RepeatingNow }) {
  const bearers = useBearers();
  const modems = (bearers.data ?? []).filter(({ config, enabled }) => enabled && sendsPackets(config));
  const stop = useChange(() => api.changeSettings({ repeating: null }), ['settings', 'repeating']);
  const kind = modems[0]?.config.kind;
  const locked = kind ? locksOf(kind, settings).length > 0 : false;
  return (
    <View>
      <Advice advice={now.advice} />
      <View aria-live="polite">
        <Heading level={2}>
          {!now.repeating ? 'Off' : now.stopped ? 'On, but nothing is repeated' : 'This station repeats'}
        </Heading>
        {now.stopped ? <Notice kind="alarm" title={now.stopped} /> : null}
        {now.repeating ? (
          <Body>
            {`In the last hour ${now.repeatedLastHour} repeated${
              now.repeating.holdBackS > 0 ? `, ${now.leftLastHour} left to somebody else` : ''
            }; at most ${now.repeating.airS} s of air time in ten minutes.`}
          </Body>
        ) : null}
      </View>
      {now.repeating ? (
        <Stack align="start" around={8}>
          <Button title="Stop repeating" kind="plain" busy={stop.isPending} onPress={() => stop.mutate(undefined)} />
        </Stack>
      ) : null}
      {stop.isError ? (
        <Notice kind="alarm" title="Not stopped">
          {stop.error.message}
        </Notice>
      ) : null}
      {locked ? <TransmitQuestions settings={settings} /> : null}
      {locked ? (
        <Body soft>
          Your licence has to cover automatic repeating, with whoever answers for it within reach: many rules ask for
          both.
        </Body>
      ) : null}
      {bearers.data && modems.length === 0 ? (
        <Notice kind="alarm" title="No modem">
          <Body>No bearer that can transmit is set up.</Body>
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      {modems.length > 0 ? (
        <RepeatingForm
          key={JSON.stringify(now.repeating)}
          modems={modems}
          repeating={now.repeating}
          locked={locked}
          helps={now.advice.verdict}
        />
      ) : null}
    </View>
  );
}

function Repeated() {
  const list = useTransmissions();
  const bearers = useBearers();
  const rows = (list.data?.pages.flatMap((page) => page.rows) ?? []).filter(({ evidence }) =>
    evidence.some(({ note }) => note?.startsWith('repeated for ')),
  );
  return (
    <View>
      <Heading level={2}>Repeated lately</Heading>
      {list.isPending ? <Waiting what="what was repeated" /> : null}
      {list.isError ? <Trouble error={list.error} retry={() => void list.refetch()} /> : null}
      {list.data && rows.length === 0 ? <Body soft>Nothing yet.</Body> : null}
      {rows.length > 0 ? (
        <View role="list" aria-label="Packets repeated">
          {rows.map((row) => (
            <TransmissionRow
              key={row.id}
              row={row}
              bearers={bearers.data ?? []}
              openPacket={(id) => router.navigate(`/packet/${id}`)}
            />
          ))}
        </View>
      ) : null}
    </View>
  );
}
