import { sendsPackets, transmitLocks, type OwnBulletinView } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { TransmitQuestions } from '../../../bearers/transmit-questions';
import { useBearers, useSettings } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Empty, Notice, Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { useHeardBulletins, useOwnBulletins } from './at-station';
import { BulletinForm } from './bulletin-form';
import { Groups } from './groups';
import { HeardList } from './heard-list';
import { OwnRow } from './own-row';

/** What is told to everybody, by others and by us. */
export function BulletinsPlace() {
  const settings = useSettings();
  const bearers = useBearers();
  const own = useOwnBulletins();
  const heard = useHeardBulletins();
  /** What is written in the form: a new one, or one that is changed; null while it is closed. */
  const [open, setOpen] = useState<OwnBulletinView | 'new' | null>(null);
  const failed = [settings, bearers, own, heard].find(({ isError }) => isError);
  const modems = (bearers.data ?? []).filter(({ config, enabled }) => enabled && sendsPackets(config));
  const locked = settings.data !== undefined && transmitLocks(settings.data).length > 0;
  return (
    <Page title="Bulletins">
      <Body soft below={12}>
        What is told to everybody by packet radio, again and again until it is over. Nobody acknowledges a bulletin.
      </Body>
      {settings.isPending || own.isPending || heard.isPending ? <Waiting what="the bulletins" /> : null}
      {failed?.error ? (
        <Trouble
          error={failed.error}
          retry={() => void Promise.all([settings.refetch(), bearers.refetch(), own.refetch(), heard.refetch()])}
        />
      ) : null}
      <Heading level={2}>Heard</Heading>
      {heard.data?.length === 0 ? (
        <Empty icon="bulletin-board" title="No bulletin heard">
          Stations tell them every 20 min or so: what there is comes within the hour.
        </Empty>
      ) : null}
      {heard.data && heard.data.length > 0 ? <HeardList bulletins={heard.data} /> : null}
      {settings.data ? (
        <Groups key={JSON.stringify(settings.data.bulletinGroups)} groups={settings.data.bulletinGroups} />
      ) : null}
      <Rule />
      <Heading level={2}>Ours</Heading>
      {settings.data && locked ? <TransmitQuestions settings={settings.data} /> : null}
      {bearers.data && modems.length === 0 ? (
        <Notice kind="alarm" title="No modem">
          <Body>No bearer that can transmit is set up.</Body>
          <Button title="Go to Bearers" kind="plain" href="/bearers" />
        </Notice>
      ) : null}
      {own.data?.length === 0 && open === null ? <Body soft>Nothing of ours is told to everybody now.</Body> : null}
      {own.data && own.data.length > 0 ? (
        <View role="list" aria-label="Our bulletins">
          {own.data.map((bulletin) => (
            <OwnRow key={bulletin.id} bulletin={bulletin} change={() => setOpen(bulletin)} />
          ))}
        </View>
      ) : null}
      {modems.length === 0 ? null : open === null ? (
        <Stack align="start" above={12}>
          <Button title="Write a bulletin" icon="plus" onPress={() => setOpen('new')} />
        </Stack>
      ) : (
        <BulletinForm
          key={open === 'new' ? 'new' : open.id}
          bulletin={open === 'new' ? null : open}
          modems={modems}
          leave={() => setOpen(null)}
        />
      )}
    </Page>
  );
}
