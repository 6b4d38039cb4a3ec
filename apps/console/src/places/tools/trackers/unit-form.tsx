import { trackerChange, trackerComment, type Tracker, type TrackerChange } from '@tombolo/contract';
import { trackerRoutes } from '@tombolo/contract/routes/trackers';
import { useState } from 'react';
import { ask } from '../../../live/ask';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { CheckRow, Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Mono } from '../../../ui/text';
import { symbolsWith } from '../settings/fields';

/** What a unit is called and drawn as, and whether it goes on the air. */
export function UnitForm({ unit, leave }: { unit: Tracker; leave: () => void }) {
  const [name, setName] = useState(unit.name);
  const [symbol, setSymbol] = useState(unit.symbol);
  const [showBattery, setBattery] = useState(unit.showBattery);
  const [bridged, setBridged] = useState(unit.bridged);
  const [tried, setTried] = useState(false);
  const read = trackerChange.safeParse({ name, symbol, showBattery, bridged });
  const change = useChange(
    (body: TrackerChange) => ask(trackerRoutes.changeTracker, { params: { unit: unit.unit }, body }),
    ['trackers', 'own objects'],
  );
  return (
    <Stack padY={8}>
      <Field
        label="Name on the map"
        mono
        autoCapitalize="characters"
        value={name}
        onChangeText={setName}
        error={tried ? read.error?.issues.find(({ path }) => path[0] === 'name')?.message : undefined}
        hint="Up to nine characters; a call with a suffix of its own, or a word"
      />
      <Choice<string> label="Drawn as" value={symbol} onChange={setSymbol} options={symbolsWith(symbol)} />
      <CheckRow label="Others may see how full its cell is" checked={showBattery} onChange={setBattery} />
      <CheckRow
        label="On the air, as an object of ours"
        hint="By the first modem, every 10 min, and when it has moved, at most every 5 min. Whoever carries it has to agree: what was sent once may stay on the internet for good."
        checked={bridged}
        onChange={setBridged}
      />
      {bridged ? (
        <Body soft below={8}>
          {'It says '}
          <Mono soft>{trackerComment({ ...unit, showBattery })}</Mono>
        </Body>
      ) : null}
      {change.isError ? (
        <Notice kind="alarm" title="Not kept">
          {change.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button
          title="Keep it so"
          busy={change.isPending}
          onPress={() => {
            setTried(true);
            if (read.success) change.mutate(read.data, { onSuccess: leave });
          }}
        />
        <Button title="Cancel" kind="plain" onPress={leave} />
      </Row>
    </Stack>
  );
}
