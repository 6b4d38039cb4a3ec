import { repeating as schema, type BearerView, type Repeating, type RepeatingNow } from '@tombolo/contract';
import { readDecimal, readWhole } from '@tombolo/core';
import { useState } from 'react';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';

const HELD_BACK_S = 2;

/** How it repeats, before it does. */
export function RepeatingForm({
  modems,
  repeating,
  locked,
  helps,
}: {
  modems: readonly BearerView[];
  repeating: Repeating | null;
  locked: boolean;
  helps: RepeatingNow['advice']['verdict'];
}) {
  const usual = schema.parse({ bearerId: modems[0]!.id, holdBackS: HELD_BACK_S });
  const [bearerId, setBearer] = useState((repeating ?? usual).bearerId);
  const [holdBack, setHoldBack] = useState(String((repeating ?? usual).holdBackS));
  const [air, setAir] = useState(String((repeating ?? usual).airS));
  const [tried, setTried] = useState(false);
  const read = schema.safeParse({ bearerId, holdBackS: readDecimal(holdBack), airS: readWhole(air) });
  const fault = (field: string) =>
    tried ? read.error?.issues.find(({ path }) => path[0] === field)?.message : undefined;
  const change = useChange((wanted: Repeating) => api.changeSettings({ repeating: wanted }), ['settings', 'repeating']);
  const submit = () => {
    setTried(true);
    if (read.success) change.mutate(read.data);
  };
  return (
    <Stack above={8}>
      {modems.length > 1 ? (
        <Choice<string>
          label="Bearer"
          value={bearerId}
          onChange={setBearer}
          options={modems.map(({ id, name }) => ({ id, title: name }))}
        />
      ) : null}
      <Field
        label="Held back, s"
        mono
        value={holdBack}
        onChangeText={setHoldBack}
        error={fault('holdBackS')}
        hint="Left alone when somebody else repeats it meanwhile; 0 repeats at once, as digipeaters do"
      />
      <Field
        label="Air time in ten minutes, s"
        mono
        inputMode="numeric"
        value={air}
        onChangeText={setAir}
        error={fault('airS')}
        hint="At most that; one station gets half of it at most"
      />
      {change.isError ? (
        <Notice kind="alarm" title="Not changed">
          {change.error.message}
        </Notice>
      ) : null}
      <Button
        title={repeating ? 'Change it' : helps === 'loads' ? 'Repeat all the same' : 'Repeat for others'}
        kind={helps === 'helps' || repeating ? 'main' : 'plain'}
        busy={change.isPending}
        disabled={locked ? 'The questions above hold the transmitter.' : false}
        onPress={submit}
      />
    </Stack>
  );
}
