import type { ProfileView } from '@tombolo/contract';
import {
  bearingBetween,
  chirpSettings,
  compassPoint,
  distanceInWords,
  PACKET_SETTINGS,
  reachOver,
  type RadioEnd,
} from '@tombolo/core';
import { useMemo } from 'react';
import { View } from 'react-native';
import { Row } from '../../../ui/layout';
import { Measured } from '../../../ui/measured';
import { Notice } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { useDistanceUnit } from '../../../live/preferences';
import type { Place } from './ends';
import { ProfilePicture } from './profile-picture';
import { decibels, groundWords, settingLines } from './words';

interface ReachResultProps {
  from: Place;
  to: Place;
  profile: ProfileView;
  ends: { from: RadioEnd; to: RadioEnd };
  frequencyMHz: number;
  use: 'packets' | 'mesh';
  bandwidthHz: number;
}

/** The reckoning: the picture, where the decibels go, and what each setting has in hand. */
export function ReachResult({ from, to, profile, ends, frequencyMHz, use, bandwidthHz }: ReachResultProps) {
  const unit = useDistanceUnit();
  const there = useMemo(
    () => reachOver(profile.points, ends.from, ends.to, frequencyMHz),
    [profile, ends.from, ends.to, frequencyMHz],
  );
  const lines = settingLines(
    use === 'mesh' ? chirpSettings(bandwidthHz) : PACKET_SETTINGS,
    Math.min(there.receivedDbm, there.backDbm),
  );
  const { azimuthDeg } = bearingBetween(from, to);
  const way = `${from.words} to ${to.words}`;
  const facts = [
    ['Distance', `${distanceInWords(there.distanceKm, unit)}, ${Math.round(azimuthDeg)}° ${compassPoint(azimuthDeg)}`],
    ['Loss in free space', `${decibels(there.freeSpaceDb, 1)} dB`],
    ['Loss by the ground', `${decibels(there.groundDb, 1)} dB`],
    [`Received at ${to.words}`, `${decibels(there.receivedDbm)} dBm`],
    [`Received at ${from.words}`, `${decibels(there.backDbm)} dBm`],
  ] as const;
  return (
    <View aria-live="polite">
      <Heading level={2} above={12}>{`From ${way}`}</Heading>
      {there.distanceKm <= 0.01 ? (
        <Notice title="The two are beside each other">Nothing is reckoned for antennas within ten metres.</Notice>
      ) : (
        <>
          <Measured>
            {(width) => (
              <ProfilePicture
                profile={profile.points}
                fromM={ends.from.antennaM}
                toM={ends.to.antennaM}
                frequencyMHz={frequencyMHz}
                width={Math.min(width, 900)}
                unit={unit}
                title={`The ground from ${way}. ${groundWords(there, unit)}`}
              />
            )}
          </Measured>
          <Body soft>
            Grey: the ground with the earth’s bulge. Line: straight from antenna to antenna. Dashed: the first Fresnel
            zone.
          </Body>
          <Body around={8}>{groundWords(there, unit)}</Body>
          {profile.missing.length > 0 ? (
            <Notice title="Elevation is missing">
              {`Add the tiles ${profile.missing.map((name) => `${name}.hgt`).join(', ')} under Chart › Maps and layers.`}
            </Notice>
          ) : null}
          <View role="list" aria-label="Where the decibels go">
            {facts.map(([name, value]) => (
              <Row role="listitem" key={name} wrap justify="between" gap={8} maxWidth={480}>
                <Body soft>{name}</Body>
                <Mono>{value}</Mono>
              </Row>
            ))}
          </View>
          <Heading level={2} above={16}>
            What the link bears
          </Heading>
          <Body soft>
            A guess from the map, for the weaker direction: an answer has to come back. What a receiver needs, and how
            much a place scatters, are usual values and not those of your set.
          </Body>
          <View role="list" aria-label="What the link bears">
            {lines.map(({ setting, marginDb, verdict, percent }) => (
              <Row role="listitem" key={setting.id} wrap columnGap={12} padY={6} ruled>
                <Body grow={1} basis={200}>
                  {setting.words}
                </Body>
                <Body bold tone={marginDb >= 0 ? 'ink' : 'alarm'}>
                  {verdict}
                </Body>
                <Mono
                  soft
                >{`${marginDb >= 0 ? '+' : ''}${decibels(marginDb)} dB · about ${percent} of 100 frames`}</Mono>
              </Row>
            ))}
          </View>
        </>
      )}
    </View>
  );
}
