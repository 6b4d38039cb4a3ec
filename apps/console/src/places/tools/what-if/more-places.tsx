import {
  bearingBetween,
  compassPoint,
  distanceInWords,
  metresInWords,
  type DistanceUnit,
  type Position,
  type RadioEnd,
} from '@tombolo/core';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Row, Stack } from '../../../ui/layout';
import { Body, Heading } from '../../../ui/text';
import type { NetWords } from './net-words';
import type { WhatIfTold } from './reckoned';

interface MorePlacesProps {
  words: NetWords;
  /** What would be put up. */
  end: RadioEnd;
  /** Null while nobody looks. */
  more: number | null;
  told: WhatIfTold | null;
  /** Why nothing can be looked for; null where it can. */
  obstacle: string | null;
  own: Position | null;
  unit: DistanceUnit;
  look: (more: number) => void;
  stop: () => void;
  take: (place: Position) => void;
}

/** Where one or two more that repeat would help most. */
export function MorePlaces({ words, end, more, told, obstacle, own, unit, look, stop, take }: MorePlacesProps) {
  const under = more !== null && told?.what !== 'found';
  return (
    <Stack above={24}>
      <Heading level={2}>Where one more would help</Heading>
      <Body soft below={8}>
        {`Looked for on the land of the map, with an antenna ${end.antennaM} m above the ground and ${end.powerW} W. It is counted how many more of these ${words.station}s one transmission of yours reaches. Whether somebody may put it up there, and has power and a way up, the map does not know.`}
      </Body>
      <Row wrap gap={8}>
        {[1, 2].map((count) => (
          <Button
            key={count}
            title={count === 1 ? 'Look for one place' : 'Look for two'}
            kind={count === 1 ? 'main' : 'plain'}
            disabled={obstacle ?? (under ? 'It is being looked for.' : false)}
            onPress={() => look(count)}
          />
        ))}
        {under ? <Button title="Stop looking" kind="plain" onPress={stop} /> : null}
      </Row>
      <View aria-live="polite">
        {under && told?.what === 'progress' ? <Body>{`${told.done} of ${told.of} places are looked at.`}</Body> : null}
        {more !== null && told?.what === 'found' ? (
          told.places.length === 0 ? (
            <Body>{`None of ${told.of} places would bring one more ${words.station} of twenty.`}</Body>
          ) : (
            <View role="list" aria-label="Where one more would help">
              {told.places.map(({ place, gain, heightM }, n) => (
                <Stack role="listitem" key={n} above={8} align="start">
                  <Body>{`${n === 0 ? 'Best' : 'With it, next'}: ${whereWords(place, own, unit)}, ${metresInWords(heightM, unit)} above the sea. It brings ${gain.toFixed(1)} ${words.station}${gain.toFixed(1) === '1.0' ? '' : 's'} more for each transmission, by the map.`}</Body>
                  <Button
                    title={n === 0 ? 'Think one there' : 'Think one there too'}
                    kind="plain"
                    onPress={() => take(place)}
                  />
                </Stack>
              ))}
            </View>
          )
        ) : null}
      </View>
    </Stack>
  );
}

function whereWords(place: Position, own: Position | null, unit: DistanceUnit): string {
  const at = `${place.latitude.toFixed(4)}, ${place.longitude.toFixed(4)}`;
  if (!own) return at;
  const { azimuthDeg, distanceKm } = bearingBetween(own, place);
  return `${distanceInWords(distanceKm, unit)} ${compassPoint(azimuthDeg)} of you, at ${at}`;
}
