import { ownStation, type StationView } from '@tombolo/contract';
import { BLOCKED_KM, inDirectRange, VOICE_ALERT_TONE_HZ, voiceAlertCall } from '@tombolo/core';
import { View } from 'react-native';
import { useDistanceUnit } from '../../live/preferences';
import { useSettings, useStations } from '../../live/queries';
import { Button } from '../../ui/button';
import { useNow } from '../../ui/clock';
import { Icon } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { useLook } from '../../ui/look';
import { Empty, Notice, Page, Trouble, Waiting } from '../../ui/page';
import { whereWords } from '../../ui/quantity';
import { Body, Heading, Mono } from '../../ui/text';
import { age } from '../../ui/time';
import { meaningOf, SYMBOL_ICONS } from './symbols';

/** Nobody sits at these. */
const UNATTENDED = new Set(['digipeater', 'gateway', 'weather', 'water level', 'board', 'satellite']);

export const directCandidate = (station: StationView) => ({
  ...station,
  directAtMs: station.directAt === null ? null : Date.parse(station.directAt),
  attended: station.kind === 'station' && !UNATTENDED.has(meaningOf(station)) && station.relaysAt === null,
});

/** Direct-range calling by voice on the packet channel: who can hear it now, what to say, and why to keep it short. */
export function CallingPlace() {
  const look = useLook();
  const now = useNow();
  const stations = useStations();
  const settings = useSettings();
  const own = settings.data ? ownStation(settings.data) : null;
  const rows = inDirectRange((stations.data ?? []).filter(({ call }) => call !== own).map(directCandidate), now);
  const voiceMHz = settings.data?.voiceMHz ?? null;
  const unit = useDistanceUnit();
  return (
    <Page title="Voice alert">
      <Stack align="start" below={8}>
        <Button title="Back to the chart" icon="arrow-left" kind="plain" href="/chart" />
      </Stack>
      <Body>
        Some listeners leave the packet channel turned up behind a tone squelch of {`${VOICE_ALERT_TONE_HZ} Hz`}: silent
        for packets, open for a voice that is sent with that tone. Only who hears you direct can answer; no digipeater
        carries a voice.
      </Body>

      <Heading level={2} above={16}>
        In direct range within the hour
      </Heading>
      {stations.isPending ? <Waiting what="stations" /> : null}
      {stations.isError ? <Trouble error={stations.error} retry={() => void stations.refetch()} /> : null}
      {stations.data && rows.length === 0 ? (
        <Empty icon="ear-hearing" title="Nobody is in direct range now">
          Stations are listed here for an hour after a packet of theirs was heard without a digipeater. Digipeaters and
          other unattended stations are left out.
        </Empty>
      ) : null}
      <View role="list" aria-label="In direct range">
        {rows.map((station) => (
          <Row role="listitem" key={station.call} gap={12} align="center" padY={8} ruled>
            <Icon name={SYMBOL_ICONS[meaningOf(station)]} color={look.inkSoft} />
            <Stack fill>
              <Mono bold>{station.call}</Mono>
              <Body soft>{`heard direct ${age(station.directAt!, now)} ago`}</Body>
            </Stack>
            <Mono soft>{whereWords(station, unit) ?? ''}</Mono>
          </Row>
        ))}
      </View>

      <Heading level={2} above={16}>
        What to say
      </Heading>
      {own !== null && voiceMHz !== null ? (
        <Mono bold size={18} around={8}>{`“${voiceAlertCall(own, voiceMHz)}”`}</Mono>
      ) : (
        <Notice title="Say first on what frequency you listen for voice">
          <Button title="Set it in Settings" kind="plain" href="/tools/settings" />
        </Notice>
      )}
      <Body>{`Set your radio to send ${VOICE_ALERT_TONE_HZ} Hz, listen until no packet is under way, say it once, and go to that frequency.`}</Body>

      <Heading level={2} above={16}>
        Why short
      </Heading>
      <Body>
        {`While you speak, nobody around can be heard: from a hill that blocks the packets of ${BLOCKED_KM.hill[0]} to ${BLOCKED_KM.hill[1]} km around, from a hollow of about ${BLOCKED_KM.hollow} km. Five words are enough; the talk belongs on the other frequency.`}
      </Body>
      <Body soft above={8}>
        Never leave your own set turned up on the packet channel when you go away from it. Local custom and the net’s
        plan come first: some nets want no voice there at all.
      </Body>
    </Page>
  );
}
