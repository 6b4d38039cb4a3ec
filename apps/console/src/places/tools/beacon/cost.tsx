import type { BearerView } from '@tombolo/contract';
import { beaconCost, beaconWarnings, counted, pathHops, type BeaconScheme } from '@tombolo/core';
import { useStations } from '../../../live/queries';
import { Notice } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { useNow } from '../../../ui/clock';
import { Stack } from '../../../ui/layout';

const HOUR_MS = 3_600_000;

/** The shortest and the longest interval that a scheme allows, s. */
const intervalsOf = (scheme: BeaconScheme): readonly [number, number] =>
  scheme.by === 'time' ? [scheme.everyS, scheme.everyS] : [scheme.leastS, scheme.mostS];

const percent = (share: number): string => (share < 0.001 ? 'under 0.1 %' : `${(share * 100).toFixed(1)} %`);

interface CostProps {
  scheme: BeaconScheme;
  path: readonly string[];
  /** Of one report; null while it is not known. */
  airTimeS: number | null;
  modem: BearerView;
}

/** What a plan takes of the channel at its busiest and at its quietest, measured against what is heard. */
export function Cost({ scheme, path, airTimeS, modem }: CostProps) {
  const now = useNow(60_000);
  const stations = useStations();
  if (airTimeS === null) return null;
  const heard = stations.data?.filter(
    ({ kind, lastAt, latitude }) => kind === 'station' && latitude !== null && now - Date.parse(lastAt) < HOUR_MS,
  ).length;
  const count = (heard ?? 0) + 1;
  const repeats = pathHops(path);
  const [least, most] = intervalsOf(scheme);
  const at = (intervalS: number) =>
    beaconCost({
      perHour: 3600 / intervalS,
      airTimeMs: airTimeS * 1000,
      repeats,
      stations: count,
      load: modem.load ?? 0,
    });
  const busiest = at(least);
  const quietest = at(most);
  const between = (of: (cost: typeof busiest) => string) =>
    of(busiest) === of(quietest) ? of(busiest) : `${of(quietest)} to ${of(busiest)}`;
  return (
    <Stack below={16} gap={4}>
      <Heading level={3}>What it costs the channel</Heading>
      <Body>{`${between(({ perHour }) => perHour.toFixed(perHour < 10 ? 1 : 0))} reports an hour, ${airTimeS.toFixed(2)} s each${repeats > 0 ? ` and once more for each of up to ${counted(repeats, 'hop')}` : ''}: ${between(({ share }) => percent(share))} of the channel${repeats > 0 ? ', more where several digipeaters repeat it' : ''}.`}</Body>
      <Body
        soft
      >{`Heard in the last hour: ${count - 1} stations with a position${modem.load === null ? '' : `; the channel is in use ${percent(modem.load)} of the time now`}. A report meets another packet in ${between(({ collision }) => percent(collision))} of the cases, or less where stations hear each other.`}</Body>
      {beaconWarnings(least, busiest, count).map((words) => (
        <Notice key={words} kind="alarm" title={words} />
      ))}
    </Stack>
  );
}
