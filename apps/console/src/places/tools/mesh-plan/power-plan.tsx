import { MONTHS, panelWhByMonth, runningHours, shortMonths, wattHoursADay } from '@tombolo/core';
import { View } from 'react-native';
import { Field } from '../../../ui/field';
import { Measured } from '../../../ui/measured';
import { Rule } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { FieldRow } from './field-row';
import { numbersOf, type Entered } from './fields';
import { SunPicture } from './sun-picture';

const CELL = ['capacityMah', 'voltageV', 'usable', 'receiveMa', 'transmitMa', 'sleepMa', 'listens'] as const;
const PANEL = ['panelCm2', 'panelEfficiency', 'throughCell', 'clearness'] as const;

interface PowerPlanProps {
  entered: Entered;
  change: (change: Partial<Entered>) => void;
  /** Of the time that a carrier sends, by the plan of the group; null while there is none. */
  transmitShare: number | null;
  latitude: { text: string; change: (text: string) => void; usual: number | null; value: number | string };
}

/** How long a node runs on its cell, and in which months a panel keeps it going. */
export function PowerPlan({ entered, change, transmitShare, latitude }: PowerPlanProps) {
  const cell = numbersOf(entered, CELL);
  const panel = numbersOf(entered, PANEL);
  const drawn =
    cell && transmitShare !== null
      ? {
          sleepMa: cell.sleepMa,
          receiveMa: cell.receiveMa,
          transmitMa: cell.transmitMa,
          transmitShare: Math.min(1, transmitShare),
          receiveShare: Math.min(cell.listens / 100, 1 - Math.min(1, transmitShare)),
        }
      : null;
  const hours = cell && drawn ? runningHours(drawn, { ...cell, usableShare: cell.usable / 100 }) : null;
  const drawnWh = cell && drawn ? wattHoursADay(drawn, cell) : null;
  const givenWh =
    panel && typeof latitude.value === 'number'
      ? panelWhByMonth(latitude.value, {
          areaM2: panel.panelCm2 / 10_000,
          efficiency: panel.panelEfficiency / 100,
          throughCell: panel.throughCell / 100,
          clearness: panel.clearness / 100,
        })
      : null;
  return (
    <View>
      <Rule />
      <Heading level={2}>On its cell</Heading>
      <FieldRow ids={CELL} entered={entered} change={change} />
      {hours !== null && drawnWh !== null ? <Body bold>{lastsWords(hours, drawnWh)}</Body> : null}
      <Body soft>
        What a node draws is in its data sheet, or measured at its cell. Do not charge a lithium cell below freezing, or
        one that is swollen or wet.
      </Body>
      <Rule />
      <Heading level={2}>By the sun</Heading>
      <Field
        label="Latitude, degrees"
        value={latitude.text}
        onChangeText={latitude.change}
        error={typeof latitude.value === 'string' ? latitude.value : undefined}
        hint={
          latitude.text.trim() === '' && latitude.usual !== null
            ? `Empty: this station’s, ${latitude.usual.toFixed(1)}`
            : 'South is negative'
        }
      />
      <FieldRow ids={PANEL} entered={entered} change={change} />
      {givenWh !== null && drawnWh !== null ? (
        <View aria-live="polite">
          <Body bold>{sunWords(givenWh, drawnWh)}</Body>
          <Measured>{(width) => <SunPicture givenWh={givenWh} drawnWh={drawnWh} width={width} />}</Measured>
          <Body soft>
            Watt-hours in a day of each month, for a panel that lies level and is shaded by nothing; the broken line is
            what the node takes. Tilted to the sun it gives more in winter, under snow nothing.
          </Body>
        </View>
      ) : null}
    </View>
  );
}

/** `About 1 day and 16 h without any sun; it takes 5.3 Wh a day.` */
function lastsWords(hours: number, drawnWh: number): string {
  if (!Number.isFinite(hours)) return 'It draws nothing.';
  const whole = Math.floor(hours);
  const [days, rest] = [Math.floor(whole / 24), whole % 24];
  const daysWords = `${days} ${days === 1 ? 'day' : 'days'}`;
  const words = days === 0 ? `${whole} h` : days < 10 && rest > 0 ? `${daysWords} and ${rest} h` : daysWords;
  return `About ${words} without any sun; it takes ${drawnWh.toFixed(1)} Wh a day.`;
}

function sunWords(givenWh: readonly number[], drawnWh: number): string {
  const short = shortMonths(givenWh, drawnWh);
  if (short.length === 0) return 'The panel is enough in every month.';
  if (short.length === 12) return 'The panel is too small in every month.';
  const names = short.map((month) => MONTHS[month]!);
  return `Too little in ${names.length === 1 ? names[0] : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`}.`;
}
