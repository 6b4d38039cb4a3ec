import { LEAST_PASSPHRASE, type BackupPlanView } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { useChange } from '../../live/queries';
import { backupApi, useBackupPlan } from '../../live/backups';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Instant } from '../../ui/clock';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Notice, Trouble, Waiting } from '../../ui/page';
import { octetsInWords } from '../../ui/quantity';
import { Body, Heading } from '../../ui/text';

const EVERY = [
  { id: 'never', title: 'Never' },
  { id: '1', title: 'Every day' },
  { id: '7', title: 'Every week' },
] as const;
type Every = (typeof EVERY)[number]['id'];
const daysOf = (every: Every): 1 | 7 | null => (every === 'never' ? null : every === '1' ? 1 : 7);
const everyOf = (days: 1 | 7 | null): Every => (days === null ? 'never' : days === 1 ? '1' : '7');

/** Backups that are made by the clock, into the folder of the station's data. */
export function BackupPlan() {
  const plan = useBackupPlan();
  if (plan.isPending) return <Waiting what="the automatic backups" />;
  if (plan.isLoadingError) return <Trouble error={plan.error} retry={() => void plan.refetch()} />;
  return plan.data.possible ? <Plan plan={plan.data} /> : null;
}

function Plan({ plan }: { plan: BackupPlanView }) {
  const [every, setEvery] = useState<Every | null>(null);
  const [passphrase, setPassphrase] = useState('');
  const [wrong, setWrong] = useState<string | null>(null);
  const change = useChange(backupApi.changeBackupPlan, ['backup plan', 'backups', 'settings']);
  const chosen = every ?? everyOf(plan.everyDays);
  const needsPassphrase = chosen !== 'never' && !plan.passphraseSet;
  const changed = daysOf(chosen) !== plan.everyDays || passphrase !== '';
  const submit = () => {
    const short = (needsPassphrase || passphrase !== '') && passphrase.length < LEAST_PASSPHRASE;
    setWrong(short ? `at least ${LEAST_PASSPHRASE} characters` : null);
    if (short) return;
    change.mutate(
      { everyDays: daysOf(chosen), kept: plan.kept, passphrase: passphrase === '' ? null : passphrase },
      {
        onSuccess: () => {
          setEvery(null);
          setPassphrase('');
        },
      },
    );
  };
  return (
    <View>
      <Heading level={2}>Automatic backups</Heading>
      <LastGood plan={plan} />
      <Choice<Every> label="How often" value={chosen} onChange={setEvery} options={EVERY} />
      {chosen !== 'never' ? (
        <Field
          label="Passphrase of the automatic backups"
          hint={
            plan.passphraseSet
              ? 'There is one. Type another to replace it: older files keep the one that they were sealed under'
              : 'It is kept on this machine, for the owner of the program alone. Write it down: without it nobody opens the files elsewhere'
          }
          secret
          value={passphrase}
          onChangeText={setPassphrase}
          error={wrong ?? undefined}
        />
      ) : null}
      {change.isError ? (
        <Notice kind="alarm" title="Nothing was changed">
          {change.error.message}
        </Notice>
      ) : null}
      {changed ? (
        <Button
          title={chosen === 'never' ? 'Make no automatic backups' : 'Make them automatically'}
          busy={change.isPending}
          onPress={submit}
        />
      ) : null}
      {plan.files.length > 0 ? (
        <>
          <Body soft above={12}>
            {`In the folder of the station’s data, the last ${plan.kept} at most:`}
          </Body>
          <View role="list" aria-label="Automatic backups">
            {plan.files.map(({ name, octets }) => (
              <Stack key={name} role="listitem" padY={4}>
                <Body>{`${name}, ${octetsInWords(octets)}`}</Body>
              </Stack>
            ))}
          </View>
        </>
      ) : null}
    </View>
  );
}

/** When the last backup was made that was verified, and why the last one was not. */
export function LastGood({ plan }: { plan: BackupPlanView }) {
  return (
    <Stack below={12}>
      {plan.lastGoodAt ? (
        <Row wrap columnGap={8}>
          <Body>The last verified backup:</Body>
          <Instant iso={plan.lastGoodAt} />
        </Row>
      ) : (
        <Body>No verified backup yet.</Body>
      )}
      {plan.problem ? (
        <Notice kind="alarm" title="The last automatic backup was not made">
          {plan.problem}
        </Notice>
      ) : null}
    </Stack>
  );
}
