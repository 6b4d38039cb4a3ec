import { counted } from '@tombolo/core';
import { useState } from 'react';
import { Button } from '../../../ui/button';
import { CheckRow } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { Body, Heading } from '../../../ui/text';
import { LONGEST_NAME, MOST_BESIDE, MOST_KEPT, useKeptPlans, type KeptPlan } from './kept-plans';

interface PlanShelfProps {
  /** The bearer of the mesh that is thought of, empty for packet radio, or all ways. Plans of other nets stay apart. */
  mesh: string;
  /** A plan, as it stands in an address, for people. */
  inWords: (plan: string) => string;
  /** The plan that is thought now, as it stands in the address; empty for none. */
  plan: string;
  /** Names of those that stand beside each other. */
  beside: readonly string[];
  setBeside: (names: readonly string[]) => void;
  open: (plan: string) => void;
}

/** Plans kept on this device: kept by a name, opened again, put beside each other. */
export function PlanShelf({ mesh, inWords, plan, beside, setBeside, open }: PlanShelfProps) {
  const { plans: all, keep, remove } = useKeptPlans();
  const plans = all.filter((one) => one.mesh === mesh);
  const [typed, setTyped] = useState('');
  const [tried, setTried] = useState(false);
  const [removed, setRemoved] = useState<KeptPlan | null>(null);
  const name = typed.trim();
  const replaces = plans.some((one) => one.name === name);
  const obstacle =
    plan === ''
      ? 'Think something otherwise first.'
      : all.length >= MOST_KEPT && !replaces
        ? `${MOST_KEPT} are kept: remove one first.`
        : false;
  const submit = () => {
    setTried(true);
    if (name === '') return;
    keep({ name, plan, mesh });
    setTyped('');
    setTried(false);
  };
  return (
    <Stack above={24}>
      <Heading level={2}>Plans kept here</Heading>
      <Body soft below={8}>
        {`On this device alone. Up to ${MOST_BESIDE} of them stand beside each other, with things as they are.`}
      </Body>
      <Field
        label="Name of this plan"
        value={typed}
        onChangeText={setTyped}
        onSubmitEditing={obstacle === false ? submit : undefined}
        maxLength={LONGEST_NAME}
        hint={replaces ? 'It takes the place of the plan of this name.' : undefined}
        error={tried && name === '' ? 'a name to find it by, such as “Winter mast”' : undefined}
      />
      <Stack align="start">
        <Button title="Keep this plan" disabled={obstacle} onPress={submit} />
      </Stack>
      <Stack role="list" aria-label="Plans kept here" above={8}>
        {plans.map((one) => (
          <Stack role="listitem" key={one.name} padY={8} ruled>
            <Body bold>{one.name}</Body>
            <Body soft>{inWords(one.plan)}</Body>
            <Row wrap gap={8}>
              <Button
                title="Open"
                about={one.name}
                kind="plain"
                disabled={one.plan === plan ? 'It is open.' : false}
                onPress={() => open(one.plan)}
              />
              <Button
                title="Remove"
                about={one.name}
                kind="plain"
                onPress={() => {
                  remove(one);
                  setRemoved(one);
                }}
              />
            </Row>
            <CheckRow
              label={`Beside the others: ${one.name}`}
              checked={beside.includes(one.name)}
              disabled={
                beside.length >= MOST_BESIDE && !beside.includes(one.name)
                  ? `${counted(MOST_BESIDE, 'plan')} stand beside each other already.`
                  : false
              }
              onChange={(checked) =>
                setBeside(checked ? [...beside, one.name] : beside.filter((other) => other !== one.name))
              }
            />
          </Stack>
        ))}
      </Stack>
      <Stack aria-live="polite" align="start">
        {removed !== null &&
        removed.mesh === mesh &&
        all.length < MOST_KEPT &&
        plans.every((one) => one.name !== removed.name) ? (
          <Button
            title="Undo"
            about={`${removed.name} was removed`}
            icon="undo"
            kind="plain"
            onPress={() => {
              keep(removed);
              setRemoved(null);
            }}
          />
        ) : null}
      </Stack>
    </Stack>
  );
}
