import type { Settings } from '@tombolo/contract';
import { distanceInWords, metresInWords, readTypedPosition, writtenForms, type DistanceUnit } from '@tombolo/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useDistanceUnit } from '../../../live/preferences';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { useChart } from '../../chart/chart-store';
import { WrittenForms } from './written-forms';

const FORMS =
  'Degrees in any of the usual forms, a locator, the military grid or UTM: 41.2690 -43.2850, 41° 16.14′ N 43° 17.10′ W, GN81ig, 23T 643648 4570037';

const withinWords = (metres: number, unit: DistanceUnit): string =>
  metres < 1000 ? metresInWords(Math.max(1, metres), unit) : distanceInWords(metres / 1000, unit);

/** The device tells where it is once, when it is asked to. */
const askDevice = (take: (text: string) => void, fail: (words: string) => void): void => {
  if (!('geolocation' in navigator)) return fail('This browser does not tell where it is.');
  navigator.geolocation.getCurrentPosition(
    ({ coords }) => take(`${coords.latitude.toFixed(5)} ${coords.longitude.toFixed(5)}`),
    ({ message }) => fail(message || 'The device did not say where it is.'),
    { timeout: 20_000, maximumAge: 60_000 },
  );
};

/** A position that is typed, in any form, and shown in all the others before it is kept. */
export function TypedPosition({ settings }: { settings: Settings }) {
  const unit = useDistanceUnit();
  const [text, setText] = useState('');
  const [tried, setTried] = useState(false);
  const [device, setDevice] = useState<string | null>(null);
  const change = useChange(
    (position: Settings['position']) => api.changeSettings({ position }),
    ['settings', 'position'],
  );
  const read = readTypedPosition(text);
  const keep = () => {
    setTried(true);
    if (read) change.mutate(read.position, { onSuccess: () => (setText(''), setTried(false)) });
  };
  return (
    <Stack above={8}>
      <Field
        label={settings.position ? 'Another position' : 'Position'}
        hint={FORMS}
        mono
        autoCapitalize="none"
        value={text}
        onChangeText={(typed) => (setText(typed), setTried(false))}
        error={tried && !read ? 'no position in any of these forms' : undefined}
      />
      <View aria-live="polite">
        {read ? (
          <>
            <Body soft>{`By its digits it says the place to within about ${withinWords(read.withinM, unit)}.`}</Body>
            <WrittenForms forms={writtenForms(read.position)} />
          </>
        ) : null}
        {device ? <Body>{device}</Body> : null}
      </View>
      {change.isError ? (
        <Notice kind="alarm" title="Not kept">
          {change.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button title="We are there" busy={change.isPending} onPress={keep} />
        <Button
          title="Point at it on the chart"
          kind="plain"
          onPress={() => {
            useChart.getState().change({ measured: [], phoneShows: 'map' });
            router.navigate('/chart');
          }}
        />
        <Button
          title="Ask this device"
          icon="crosshairs-gps"
          kind="plain"
          onPress={() => {
            setDevice('The device is asked where it is.');
            askDevice((told) => (setText(told), setDevice('This device says so.')), setDevice);
          }}
        />
      </Row>
    </Stack>
  );
}
