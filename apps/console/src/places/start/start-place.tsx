import type { BearerView, Settings } from '@tombolo/contract';
import { router } from 'expo-router';
import { View } from 'react-native';
import { useAddressed } from '../../live/addressed';
import { usePreferences } from '../../live/preferences';
import { useBearers, useSettings } from '../../live/queries';
import { Button } from '../../ui/button';
import { Icon } from '../../ui/icon';
import { Row } from '../../ui/layout';
import { Link } from '../../ui/link';
import { useLook } from '../../ui/look';
import { Page, Trouble, Waiting } from '../../ui/page';
import { Body } from '../../ui/text';
import { Have } from './have';
import { Licence } from './licence';
import { Listen } from './listen';
import { isAnswered, stepAfter, stepOf, STEPS, STEP_WORDS, type Step } from './steps';
import { Where } from './where';
import { Who } from './who';

const USUAL = { step: 'who' };

/** The first minutes of a new station, one question after the other. */
export function StartPlace() {
  const settings = useSettings();
  const bearers = useBearers();
  const [{ step: told }] = useAddressed(USUAL);
  const step = stepOf(told);
  const failed = [settings, bearers].find(({ isError }) => isError);
  const leave = () => {
    usePreferences.getState().prefer({ firstStepsOver: true });
    router.navigate('/traffic');
  };
  return (
    <Page title="First steps">
      {settings.isPending || bearers.isPending ? <Waiting what="what is known of this station" /> : null}
      {failed?.error ? (
        <Trouble error={failed.error} retry={() => void Promise.all([settings.refetch(), bearers.refetch()])} />
      ) : null}
      {settings.data && bearers.data ? (
        <>
          <StepList step={step} settings={settings.data} bearers={bearers.data} />
          <Question step={step} settings={settings.data} bearers={bearers.data} />
        </>
      ) : null}
      <Row wrap gap={8} above={24}>
        {step === 'listen' ? null : (
          <Button title="Pass over this" kind="plain" href={`/start?step=${stepAfter(step)}`} />
        )}
        <Button
          title={step === 'listen' ? 'Go to Traffic' : 'Leave these steps'}
          kind={step === 'listen' ? 'main' : 'plain'}
          onPress={leave}
        />
      </Row>
      {step === 'listen' ? null : <Body soft>They stay under Tools, and so does everything that they ask.</Body>}
    </Page>
  );
}

interface Known {
  readonly settings: Settings;
  readonly bearers: readonly BearerView[];
}

function Question({ step, settings, bearers }: Known & { step: Step }) {
  const next = () => router.navigate(`/start?step=${stepAfter(step)}`);
  switch (step) {
    case 'who':
      return <Who settings={settings} next={next} />;
    case 'licence':
      return <Licence settings={settings} next={next} />;
    case 'where':
      return <Where settings={settings} next={next} />;
    case 'have':
      return <Have settings={settings} bearers={bearers} next={next} />;
    case 'listen':
      return <Listen settings={settings} bearers={bearers} />;
  }
}

function StepList({ step, settings, bearers }: Known & { step: Step }) {
  const look = useLook();
  return (
    <Row role="list" aria-label="Steps" wrap columnGap={16}>
      {STEPS.map((one, i) => {
        const answered = isAnswered(one, settings, bearers);
        const words = `${i + 1} ${STEP_WORDS[one]}`;
        return (
          <View key={one} role="listitem">
            <Link
              href={`/start?step=${one}`}
              label={answered ? `${words}: answered` : words}
              current={one === step ? 'step' : undefined}
              row
              gap={4}
              align="center"
              minHeight={48}
            >
              <Body bold={one === step} tone={one === step ? 'tide' : 'inkSoft'}>
                {words}
              </Body>
              {answered ? <Icon name="check" size={18} color={look.tide} /> : null}
            </Link>
          </View>
        );
      })}
    </Row>
  );
}
