import type { NewWatch, ReadingsView, Watch } from '@tombolo/contract';
import { readDecimal, type DistanceUnit } from '@tombolo/core';
import { useState } from 'react';
import { api } from '../../../live/api';
import { useDistanceUnit } from '../../../live/preferences';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Chips } from '../../../ui/chips';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body } from '../../../ui/text';
import { inChosenUnit, shownWind } from './wind';

const WHEN = [
  { id: 'above', title: 'is above' },
  { id: 'below', title: 'is below' },
  { id: 'rises by', title: 'rises by' },
  { id: 'falls by', title: 'falls by' },
  { id: 'silent for', title: 'is silent for' },
] as const;
type When = (typeof WHEN)[number]['id'];

const numberOf = (text: string): number | null => {
  const value = readDecimal(text);
  return text.trim() === '' || !Number.isFinite(value) ? null : value;
};

/** The limit of a watch as it is typed in the unit of this device. */
const limitText = ({ quantity, threshold }: Watch, unit: DistanceUnit): string => {
  const perMs = threshold.when === 'silent for' ? 1 : (shownWind(quantity, unit)?.perMs ?? 1);
  return String(Math.round(threshold.limit * perMs * 100) / 100);
};

/** When to raise an alarm: a quantity, a limit, and for changes a time. */
export function WatchForm({
  readings,
  before,
  done,
}: {
  readings: ReadingsView;
  /** The watch that is changed; none for a new one. */
  before?: Watch;
  done: () => void;
}) {
  const [quantity, setQuantity] = useState(before?.quantity ?? readings.series[0]?.quantity ?? '');
  const [when, setWhen] = useState<When>(before?.threshold.when ?? 'above');
  const unit = useDistanceUnit();
  const [limit, setLimit] = useState(before ? limitText(before, unit) : '');
  const [within, setWithin] = useState(String(before?.threshold.withinHours ?? 2));
  const [tried, setTried] = useState(false);
  const add = useChange(
    (wanted: NewWatch) =>
      before
        ? api.changeWatch(before.id, { quantity: wanted.quantity, threshold: wanted.threshold })
        : api.addWatch(wanted),
    ['watches', 'alarms'],
  );
  const told = readings.series.find((candidate) => candidate.quantity === quantity);
  const series = told && inChosenUnit(told, unit);
  const change = when === 'rises by' || when === 'falls by';
  const limitValue = numberOf(limit);
  const hours = numberOf(within);
  const silent = when === 'silent for';
  const limitProblem = silent
    ? limitValue === null || limitValue < 1 || limitValue > 2880
      ? 'Minutes from 1 to 2880'
      : undefined
    : limitValue === null
      ? 'A number such as 20 or 0.3'
      : change && limitValue <= 0
        ? 'A change is more than nothing'
        : undefined;
  const hoursProblem = change && (hours === null || hours < 0.25 || hours > 48) ? 'Hours from 0.25 to 48' : undefined;
  const submit = () => {
    setTried(true);
    if (limitProblem || hoursProblem || limitValue === null) return;
    add.mutate(
      {
        id: crypto.randomUUID(),
        call: readings.call,
        quantity,
        threshold: {
          when,
          limit: silent ? limitValue : Math.round((limitValue / (shownWind(quantity, unit)?.perMs ?? 1)) * 100) / 100,
          withinHours: change ? hours! : 1,
        },
      },
      { onSuccess: done },
    );
  };
  return (
    <Stack above={12} gap={8}>
      <Choice<string>
        label={`Alarm of ${readings.call} when`}
        value={quantity}
        onChange={setQuantity}
        options={readings.series.map(({ quantity: id, name }) => ({ id, title: name }))}
      />
      <Chips label="When" value={when} onChange={setWhen} options={WHEN} />
      <Field
        label={silent ? 'Silence, minutes' : `Limit${series?.unit ? `, ${series.unit}` : ''}`}
        value={limit}
        onChangeText={setLimit}
        inputMode="decimal"
        mono
        error={tried ? limitProblem : undefined}
        hint={
          silent
            ? 'Two or three times the pace at which it reports'
            : series
              ? `Now ${series.points.at(-1)!.value.toFixed(series.decimals)} ${series.unit}`
              : undefined
        }
      />
      {change ? (
        <Field
          label="Within, hours"
          value={within}
          onChangeText={setWithin}
          inputMode="decimal"
          mono
          error={tried ? hoursProblem : undefined}
        />
      ) : null}
      {add.isError ? (
        <Notice kind="alarm" title="Not kept; what you entered is still here">
          {add.error.message}
        </Notice>
      ) : null}
      <Row gap={8}>
        <Button title="Raise an alarm then" busy={add.isPending} onPress={submit} />
        <Button title="Cancel" kind="plain" onPress={done} />
      </Row>
      <Body soft>
        An alarm helps you look; it does not replace the warning service. A station that falls silent raises one only
        when you watch for that too.
      </Body>
    </Stack>
  );
}
