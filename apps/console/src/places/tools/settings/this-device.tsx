import type { DistanceUnit } from '@tombolo/core';
import { usePreferences } from '../../../live/preferences';
import { Choice } from '../../../ui/choice';
import { Body, Heading } from '../../../ui/text';
import { SingleKeys } from '../shortcuts';

const UNITS = [
  { id: 'km', title: 'Kilometres' },
  { id: 'mi', title: 'Miles' },
  { id: 'nmi', title: 'Nautical miles' },
] as const;

/** What holds on this device alone, at once. */
export function ThisDevice() {
  const { distanceUnit, prefer } = usePreferences();
  return (
    <>
      <Heading level={2}>This device</Heading>
      <Body soft style={{ marginBottom: 8 }}>
        Kept in this browser, at once, and for nobody else.
      </Body>
      <Choice<DistanceUnit>
        label="Distances in"
        value={distanceUnit}
        onChange={(unit) => prefer({ distanceUnit: unit })}
        options={UNITS}
      />
      <SingleKeys />
    </>
  );
}
