import type { DistanceUnit } from '@tombolo/core';
import { usePreferences } from '../../../live/preferences';
import { CheckRow, Choice } from '../../../ui/choice';
import { Body, Heading } from '../../../ui/text';
import { SingleKeys } from '../shortcuts';

const UNITS = [
  { id: 'km', title: 'Kilometres' },
  { id: 'mi', title: 'Miles' },
  { id: 'nmi', title: 'Nautical miles' },
] as const;

/** How long somebody may leave it, min. */
const WAITS = [
  { id: '', title: 'Never' },
  { id: '10', title: 'After 10 min' },
  { id: '30', title: 'After 30 min' },
  { id: '120', title: 'After 2 h' },
] as const;

/** What holds on this device alone, at once. */
export function ThisDevice() {
  const { distanceUnit, localTimes, unansweredMin, prefer } = usePreferences();
  return (
    <>
      <Heading level={2}>This device</Heading>
      <Body soft below={8}>
        Kept in this browser, at once, and for nobody else.
      </Body>
      <Choice<DistanceUnit>
        label="Distances in"
        value={distanceUnit}
        onChange={(unit) => prefer({ distanceUnit: unit })}
        options={UNITS}
      />
      <CheckRow
        label="Show local time beside UTC"
        checked={localTimes}
        onChange={(on) => prefer({ localTimes: on })}
        hint="In brackets, by the clock of this device. Nets and logs keep to UTC, which ends in Z. A time that stands by itself changes to local when it is tapped."
      />
      <Choice<string>
        label="Say again that something waits for an answer"
        value={String(unansweredMin ?? '')}
        onChange={(min) => prefer({ unansweredMin: min === '' ? null : Number(min) })}
        options={WAITS}
      />
      <SingleKeys />
    </>
  );
}
