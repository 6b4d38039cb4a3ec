import { ownStation, type StationView } from '@tombolo/contract';
import { compassPoint, symbolMeaning, type SymbolMeaning } from '@tombolo/core';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { FlatList, Pressable, View } from 'react-native';
import { useSettings, useStations } from '../../live/queries';
import { Button } from '../../ui/button';
import { useNow } from '../../ui/clock';
import { Icon, type IconName } from '../../ui/icon';
import { useLook } from '../../ui/look';
import { Empty, Notice, Trouble, Waiting } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { age } from '../../ui/time';
import { useDraft } from '../write/draft';

const SYMBOLS: Record<SymbolMeaning, IconName> = {
  car: 'car',
  house: 'home-outline',
  person: 'walk',
  weather: 'weather-windy',
  digipeater: 'radio-tower',
  gateway: 'swap-horizontal-circle-outline',
  boat: 'ferry',
  truck: 'truck-outline',
  ambulance: 'ambulance',
  emergency: 'alert-octagram-outline',
  other: 'map-marker-outline',
};

/** `14.6 km WSW (258°)`; null when either position is unknown. */
export function whereWords({ distanceKm, azimuthDeg }: StationView): string | null {
  if (distanceKm === null || azimuthDeg === null) return null;
  const distance = distanceKm < 10 ? distanceKm.toFixed(1) : distanceKm.toFixed(0);
  return `${distance} km ${compassPoint(azimuthDeg)} (${Math.round(azimuthDeg)}°)`;
}

type Order = 'newest' | 'nearest';

/** Who is there, where from us, and how they were heard. */
export function ChartPlace() {
  const stations = useStations();
  const settings = useSettings();
  const now = useNow();
  const [order, setOrder] = useState<Order>('newest');
  const rows = useMemo(() => {
    const own = settings.data ? ownStation(settings.data) : null;
    const all = (stations.data ?? []).filter((station) => station.call !== own);
    return order === 'newest' ? all : all.sort((a, b) => (a.distanceKm ?? Infinity) - (b.distanceKm ?? Infinity));
  }, [stations.data, settings.data, order]);
  return (
    <FlatList
      style={{ flex: 1 }}
      contentContainerStyle={{ padding: 16, maxWidth: 880 }}
      data={rows}
      keyExtractor={(station) => station.call}
      ListHeaderComponent={
        <View style={{ gap: 8, marginBottom: 8 }}>
          <Heading level={1}>Chart</Heading>
          {settings.data && !settings.data.position ? (
            <Notice title="Your own position is not set">
              <Body>Without it no distance or bearing can be given.</Body>
              <Button title="Set it in Settings" kind="plain" onPress={() => router.navigate('/tools/settings')} />
            </Notice>
          ) : null}
          <View role="group" aria-label="Order" style={{ flexDirection: 'row', gap: 8 }}>
            <Button
              title="Newest first"
              kind="plain"
              selected={order === 'newest'}
              onPress={() => setOrder('newest')}
            />
            <Button
              title="Nearest first"
              kind="plain"
              selected={order === 'nearest'}
              onPress={() => setOrder('nearest')}
            />
          </View>
          {stations.isPending ? <Waiting what="stations" /> : null}
          {stations.isError ? <Trouble error={stations.error} retry={() => void stations.refetch()} /> : null}
        </View>
      }
      ListEmptyComponent={
        stations.data ? (
          <Empty
            icon="compass-outline"
            title="No station heard yet"
            action={{ title: 'See the links', onPress: () => router.navigate('/links') }}
          >
            Stations appear as soon as one packet of theirs is heard. Fixed ones announce about every 30 minutes, moving
            ones every few minutes.
          </Empty>
        ) : null
      }
      renderItem={({ item }) => <StationRow station={item} now={now} />}
    />
  );
}

function StationRow({ station, now }: { station: StationView; now: number }) {
  const look = useLook();
  const writeTo = useDraft((draft) => draft.answer);
  const meaning = station.symbol
    ? symbolMeaning({ table: station.symbol[0]!, code: station.symbol[1] ?? ' ' })
    : 'other';
  const where = whereWords(station);
  return (
    <View
      style={{
        flexDirection: 'row',
        gap: 12,
        paddingVertical: 10,
        borderBottomWidth: 1,
        borderBottomColor: look.rule,
        alignItems: 'center',
      }}
    >
      <Icon name={SYMBOLS[meaning]} size={26} color={look.inkSoft} />
      <View style={{ flex: 1 }}>
        <View style={{ flexDirection: 'row', gap: 10, alignItems: 'baseline', flexWrap: 'wrap' }}>
          <Mono bold>{station.call}</Mono>
          {where ? <Mono soft>{where}</Mono> : null}
        </View>
        {station.comment ? <Body numberOfLines={1}>{station.comment}</Body> : null}
        <Body soft style={{ fontSize: 15, lineHeight: 20 }}>{`${station.words}, ${age(station.lastAt, now)} ago`}</Body>
      </View>
      <Pressable
        role="button"
        aria-label={`Write to ${station.call}`}
        onPress={() => {
          writeTo(station.call, null);
          router.navigate('/write');
        }}
        style={{ minHeight: 48, minWidth: 48, alignItems: 'center', justifyContent: 'center' }}
      >
        <Icon name="pencil-outline" color={look.tide} />
      </Pressable>
    </View>
  );
}
