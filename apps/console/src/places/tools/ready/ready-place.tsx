import { SYMPTOMS, type SymptomId } from '@tombolo/core';
import { useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Page, Rule, Trouble, Waiting } from '../../../ui/page';
import { Link } from '../../../ui/link';
import { Body, Heading } from '../../../ui/text';
import { useCheckRuns, useOwnCauses, useSeen } from './at-station';
import { Check } from './check';
import { OwnCauses } from './own-causes';
import { Runs } from './runs';
import { symptomWords } from './words';

/** Finds what is wrong, with as little asking as can be. */
export function ReadyPlace() {
  const { symptom } = useLocalSearchParams<{ symptom?: string }>();
  const chosen = SYMPTOMS.find(({ id }) => id === symptom)?.id;
  const seen = useSeen();
  const runs = useCheckRuns();
  const own = useOwnCauses();
  const failed = [seen, runs, own].find(({ isError }) => isError);
  const again = () => void Promise.all([seen.refetch(), runs.refetch(), own.refetch()]);
  return (
    <Page title="Ready check">
      {failed?.error ? <Trouble error={failed.error} retry={again} /> : null}
      {chosen === undefined ? (
        <Symptoms />
      ) : seen.data && runs.data && own.data ? (
        <>
          <Heading level={2}>{symptomWords(chosen)}</Heading>
          <Check
            key={chosen}
            symptom={chosen}
            seen={seen.data}
            counted={runs.data.counted[chosen] ?? {}}
            own={own.data}
          />
          <Stack align="start" above={16}>
            <Button title="Something else is wrong" kind="plain" href="/tools/ready" />
          </Stack>
          <Rule />
          <OwnCauses symptom={chosen} own={own.data} />
        </>
      ) : failed ? null : (
        <Waiting what="what the station sees" />
      )}
      {runs.data ? <Runs runs={runs.data.runs} own={own.data ?? []} /> : null}
    </Page>
  );
}

function Symptoms() {
  return (
    <>
      <Body soft below={12}>
        Most failures happen before the first packet. Choose what you see: what the station can look up, it looks up
        itself; the rest is asked in the order that finds the fault soonest.
      </Body>
      <View role="list" aria-label="What is wrong">
        {SYMPTOMS.map(({ id, words }) => (
          <Stack key={id} role="listitem" ruledAbove>
            <Link href={`/tools/ready?symptom=${id satisfies SymptomId}`} minHeight={48} justify="center">
              <Body tone="tide">{words}</Body>
            </Link>
          </Stack>
        ))}
      </View>
    </>
  );
}
