import { trackerFeed, type Tracker, type TrackerFeed, type TrackersNow } from '@tombolo/contract';
import { locatorOf, readWhole, symbolInWords, symbolOf } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { useTrackers } from '../../../live/trackers';
import { Button } from '../../../ui/button';
import { Instant } from '../../../ui/clock';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Empty, Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { UnitForm } from './unit-form';

/** Trackers that a web feed tells of: named, shown, and put on the air where somebody says so. */
export function TrackersPlace() {
  const now = useTrackers();
  return (
    <Page title="Trackers">
      <Body soft below={12}>
        Trackers of a satellite or a phone network, by the web feed of their service, and nodes of the mesh that told
        where they are. On the air they are objects of ours, marked with whose they are and how old, never stations. A
        tracker is no rescue service: where a phone works, call the emergency number first.
      </Body>
      {now.isPending ? <Waiting what="the trackers" /> : null}
      {now.isError ? <Trouble error={now.error} retry={() => void now.refetch()} /> : null}
      {now.data ? (
        <>
          <FeedForm key={JSON.stringify(now.data.feed)} now={now.data} />
          <Rule />
          <Units now={now.data} />
        </>
      ) : null}
    </Page>
  );
}

function FeedForm({ now: { feed, askedAt, fault } }: { now: TrackersNow }) {
  const [url, setUrl] = useState(feed?.url ?? '');
  const [everyS, setEvery] = useState(String(feed?.everyS ?? 60));
  const [tried, setTried] = useState(false);
  const read = trackerFeed.safeParse({ url: url.trim(), everyS: readWhole(everyS) });
  const faultOf = (field: string) =>
    tried ? read.error?.issues.find(({ path }) => path[0] === field)?.message : undefined;
  const change = useChange(
    (next: TrackerFeed | null) => api.changeSettings({ trackerFeed: next }),
    ['settings', 'trackers'],
  );
  return (
    <View>
      <View aria-live="polite">
        <Heading level={2}>{feed ? 'The feed is asked' : 'No feed'}</Heading>
        {feed && askedAt ? (
          <Body soft>
            {'Asked last at '}
            <Instant iso={askedAt} seconds />
          </Body>
        ) : null}
        {feed && fault ? (
          <Notice kind="alarm" title="Not all of its answer could be used">
            {fault}
          </Notice>
        ) : null}
      </View>
      <Field
        label="Address of the feed"
        mono
        autoCapitalize="none"
        value={url}
        onChangeText={setUrl}
        error={faultOf('url')}
        hint="It answers with GeoJSON; docs/formats.md says how"
      />
      <Field
        label="Asked every, s"
        mono
        inputMode="numeric"
        value={everyS}
        onChangeText={setEvery}
        error={faultOf('everyS')}
        hint="30 to 3600"
      />
      {change.isError ? (
        <Notice kind="alarm" title="Not changed">
          {change.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title={feed ? 'Change the feed' : 'Ask this feed'}
          busy={change.isPending}
          onPress={() => {
            setTried(true);
            if (read.success) change.mutate(read.data);
          }}
        />
        {feed ? <Button title="Ask it no more" kind="plain" onPress={() => change.mutate(null)} /> : null}
      </Row>
    </View>
  );
}

function Units({ now: { feed, units } }: { now: TrackersNow }) {
  /** Of which unit the form is open. */
  const [open, setOpen] = useState<string | null>(null);
  return (
    <View>
      <Heading level={2}>Units</Heading>
      {units.length === 0 ? (
        <Empty icon="map-marker-radius-outline" title="No unit yet">
          {feed
            ? 'What the feed tells of appears here when it is asked next.'
            : 'They appear here when a feed is asked.'}
        </Empty>
      ) : null}
      <View role="list" aria-label="Units">
        {units.map((unit) => (
          <View key={unit.unit} role="listitem">
            <UnitRow unit={unit} change={() => setOpen(open === unit.unit ? null : unit.unit)} />
            {open === unit.unit ? <UnitForm unit={unit} leave={() => setOpen(null)} /> : null}
          </View>
        ))}
      </View>
    </View>
  );
}

function UnitRow({ unit, change }: { unit: Tracker; change: () => void }) {
  const symbol = symbolOf(unit.symbol);
  return (
    <Stack padY={10} gap={4} ruled>
      <Mono bold>{unit.name}</Mono>
      {unit.emergency ? <Body tone="alarm">It calls for help</Body> : null}
      <Body>
        {[
          `Tracker ${unit.unit}`,
          symbol ? symbolInWords(symbol) : '',
          locatorOf(unit),
          unit.batteryPercent === null ? '' : `cell ${Math.round(unit.batteryPercent)} %`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Body>
      <Body soft>
        {unit.stale ? 'Was there at ' : 'There at '}
        <Instant iso={unit.at} />
        {unit.bridged
          ? unit.stale
            ? ' · too old to go on the air'
            : ' · on the air as an object'
          : ' · shown here alone'}
      </Body>
      <Stack align="start">
        <Button title="Name it, or put it on the air" about={unit.unit} kind="plain" onPress={change} />
      </Stack>
    </Stack>
  );
}
