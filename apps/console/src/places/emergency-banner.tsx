import type { Alarm } from '@tombolo/contract';
import { useState } from 'react';
import { api } from '../live/api';
import { useDistanceUnit, usePreferences, useTimeWords } from '../live/preferences';
import { useChange, useStations } from '../live/queries';
import { Banner } from '../ui/banner';
import { Button } from '../ui/button';
import { useTimed } from '../ui/clock';
import { Field } from '../ui/field';
import { Row } from '../ui/layout';
import { whereWords } from '../ui/quantity';
import { Body, Mono } from '../ui/text';
import { age } from '../ui/time';
import { ShowStation } from './show-station';

/** A station calls for help: it stays above everything until somebody has taken it by name. */
export function EmergencyBanner({ alarm }: { alarm: Alarm }) {
  const timeWords = useTimeWords();
  const unit = useDistanceUnit();
  const { initials, prefer } = usePreferences();
  const [asked, setAsked] = useState(false);
  const take = useChange(api.takeAlarm, ['alarms']);
  const station = useStations().data?.find(({ call }) => call === alarm.call);
  const where = station ? whereWords(station, unit) : null;
  const heard = useTimed((now) => (station ? age(station.lastAt, now) : ''));
  const submit = () => {
    if (initials.trim() === '') setAsked(true);
    else take.mutate({ id: alarm.id, by: initials.trim() });
  };
  return (
    <Banner
      icon="alert-octagram-outline"
      edge={4}
      actions={
        <>
          {asked ? (
            <Field
              label="Your initials"
              hint="Others see who has taken it."
              value={initials}
              onChangeText={(text) => prefer({ initials: text.slice(0, 30) })}
              autoCapitalize="characters"
            />
          ) : null}
          {take.isError ? <Body>{take.error.message}</Body> : null}
          <Row wrap gap={8}>
            <Button
              title={initials.trim() === '' ? 'I take it' : `I take it, ${initials.trim()}`}
              about={alarm.call}
              busy={take.isPending}
              onPress={submit}
            />
            <ShowStation call={alarm.call} />
          </Row>
        </>
      }
    >
      <Mono bold tone="alarm">
        {`${alarm.drill ? 'Drill: emergency' : 'Emergency'}: ${alarm.call}, ${timeWords(alarm.at)}`}
      </Mono>
      <Body>
        {[
          `It ${alarm.words}`,
          where ?? 'where it is, is not known',
          ...(station ? [`last heard ${heard} ago`] : []),
          ...(alarm.endedAt ? [`since ${timeWords(alarm.endedAt)} it says otherwise`] : []),
        ].join(' · ')}
      </Body>
      <Body soft>This is no rescue service. Where a phone works, the emergency number comes first.</Body>
    </Banner>
  );
}
