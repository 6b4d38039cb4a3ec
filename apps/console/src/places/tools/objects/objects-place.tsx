import { sendsPackets, type OwnObject } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { TransmitQuestions } from '../../../bearers/transmit-questions';
import { useBearers, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Empty, Notice, Page, Trouble, Waiting } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { transmitLocks } from '@tombolo/contract';
import { useOwnObjects } from './at-station';
import { ObjectForm } from './object-form';
import { ObjectRow } from './object-row';

/** Things that this station puts on the map of all: a shelter, a flooded road. */
export function ObjectsPlace() {
  const settings = useSettings();
  const bearers = useBearers();
  const objects = useOwnObjects();
  /** What is written in the form: a new thing, or one that is changed; null while it is closed. */
  const [open, setOpen] = useState<OwnObject | 'new' | null>(null);
  const failed = [settings, bearers, objects].find(({ isError }) => isError);
  const modems = (bearers.data ?? []).filter(({ config, enabled }) => enabled && sendsPackets(config));
  const locked = settings.data !== undefined && transmitLocks(settings.data).length > 0;
  return (
    <Page title="Things on the map">
      <Body soft below={12}>
        What everybody should see where it is: reported by you, at once and then again by its interval, until you take
        it off. Whoever hears it may take it over; then yours is not sent any more.
      </Body>
      {settings.isPending || objects.isPending ? <Waiting what="the things" /> : null}
      {failed?.error ? (
        <Trouble error={failed.error} retry={() => void Promise.all([settings.refetch(), objects.refetch()])} />
      ) : null}
      {settings.data && locked ? <TransmitQuestions settings={settings.data} /> : null}
      {bearers.data && modems.length === 0 ? (
        <Notice kind="alarm" title="No modem">
          <Body>No bearer that can transmit is set up.</Body>
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      {objects.data?.length === 0 && open === null ? (
        <Empty icon="map-marker-outline" title="Nothing of ours is on the map">
          A shelter, a road that is closed, water that rises: put it there once, and it is told to whoever comes later.
        </Empty>
      ) : null}
      {objects.data && objects.data.length > 0 ? (
        <View role="list" aria-label="Our things">
          {objects.data.map((thing) => (
            <ObjectRow key={thing.id} thing={thing} change={() => setOpen(thing)} />
          ))}
        </View>
      ) : null}
      {open === null && modems.length > 0 ? (
        <Stack align="start" above={12}>
          <Button title="Put something on the map" icon="plus" onPress={() => setOpen('new')} />
        </Stack>
      ) : null}
      {open !== null && modems.length > 0 ? (
        <ObjectForm
          key={open === 'new' ? 'new' : open.id}
          thing={open === 'new' ? null : open}
          modems={modems}
          leave={() => setOpen(null)}
        />
      ) : null}
    </Page>
  );
}
