import { goesOut, type BearerView, type GoesOut, type Settings } from '@tombolo/contract';
import { readWhole } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../../live/api';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { Body, Heading, Mono } from '../../../ui/text';
import { usePaths } from '../position/use-paths';

const EVERY_MIN = 30;

/** What we say of ourselves besides the position, and how often. */
export function StatusPlan({ settings, modem }: { settings: Settings; modem: BearerView }) {
  const { statusPlan: plan, statusText, voiceMHz } = settings;
  const [everyMin, setEvery] = useState(String(plan?.everyMin ?? EVERY_MIN));
  const { paths, usual } = usePaths(modem);
  const [chosen, setPath] = useState<string | null>(plan ? plan.path.join(',') : null);
  const path = chosen ?? usual;
  const [tried, setTried] = useState(false);
  const [open, setOpen] = useState(false);
  const read = goesOut.safeParse({
    bearerId: plan?.bearerId ?? modem.id,
    path: path.split(',').filter(Boolean),
    everyMin: readWhole(everyMin),
  });
  const change = useChange(
    (statusPlan: GoesOut | null) => api.changeSettings({ statusPlan }),
    ['settings', 'transmissions'],
  );
  const says = [voiceMHz === null ? '' : `${voiceMHz.toFixed(3)}MHz`, statusText].filter(Boolean).join(' ');
  return (
    <View>
      <Heading level={2}>{plan ? 'Our status goes out by itself' : 'Status'}</Heading>
      {says ? (
        <Mono>{says}</Mono>
      ) : (
        <Body>It says nothing yet: write it, and the frequency that you listen on, in Settings.</Body>
      )}
      {plan ? <Body>{`Every ${plan.everyMin} min, over ${plan.path.join(',') || 'no digipeater'}`}</Body> : null}
      {open ? (
        <>
          <Stack align="start" around={8}>
            <Button title="Change what it says" kind="plain" href="/tools/settings" />
          </Stack>
          <Field
            label="Every, min"
            mono
            inputMode="numeric"
            value={everyMin}
            onChangeText={setEvery}
            error={tried ? read.error?.issues.find(({ path: at }) => at[0] === 'everyMin')?.message : undefined}
            hint="5 to 240; 30 is usual"
          />
          <Choice<string> label="Path of the status" value={path} onChange={setPath} options={paths} />
        </>
      ) : null}
      {change.isError ? (
        <Notice kind="alarm" title="Not changed">
          {change.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8} above={8}>
        {open ? (
          <Button
            title={plan ? 'Keep the plan of the status' : 'Send the status by itself'}
            kind="plain"
            busy={change.isPending}
            disabled={says ? false : 'It says nothing yet.'}
            onPress={() => {
              setTried(true);
              if (read.success) change.mutate(read.data);
            }}
          />
        ) : (
          <Button
            title={plan ? 'Change the plan of the status' : 'Plan the status'}
            kind="plain"
            onPress={() => setOpen(true)}
          />
        )}
        {plan ? <Button title="Stop the status" kind="plain" onPress={() => change.mutate(null)} /> : null}
      </Row>
    </View>
  );
}
