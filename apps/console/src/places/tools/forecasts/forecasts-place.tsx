import { useQuery } from '@tanstack/react-query';
import type { CalibrationView, PredictionsView } from '@tombolo/contract';
import { planningRoutes } from '@tombolo/contract/routes/planning';
import { counted, ofHundred } from '@tombolo/core';
import { View } from 'react-native';
import { ask } from '../../../live/ask';
import { Stack } from '../../../ui/layout';
import { Measured } from '../../../ui/measured';
import { Empty, Page, Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { theirsInWords } from '../../../ways/theirs-in-words';
import { ReliabilityPicture } from './reliability-picture';

/** How honest the planner was: what it predicted of each sending, against what came of it. */
export function ForecastsPlace() {
  const predictions = useQuery({ queryKey: ['predictions'], queryFn: () => ask(planningRoutes.predictions, {}) });
  return (
    <Page title="Forecasts">
      {predictions.isLoadingError ? (
        <Trouble error={predictions.error} retry={() => void predictions.refetch()} />
      ) : predictions.data ? (
        <Report view={predictions.data} />
      ) : (
        <Waiting what="the forecasts" />
      )}
    </Page>
  );
}

function Report({ view: { all, byBearer, byBasis, corrections, open, enough } }: { view: PredictionsView }) {
  if (all.count === 0)
    return (
      <Empty icon="sign-direction" title="Nothing to judge yet">
        {`Of each text that asks for an answer it is kept what was expected of it when it was queued. ${open === 0 ? 'None was sent yet.' : `${counted(open, 'sending')} ${open === 1 ? 'is' : 'are'} still open.`}`}
      </Empty>
    );
  return (
    <Stack gap={16}>
      <Body soft>
        {`Each point is a tenth of what was sent, by what was expected of it. On the broken line a forecast is honest: above it more was proved than expected, below it less. ${counted(open, 'sending')} ${open === 1 ? 'is' : 'are'} still open or cannot be judged.`}
      </Body>
      <Measured>{(width) => <ReliabilityPicture bins={all.bins} width={width} />}</Measured>
      <Judgement of={all} enough={enough} title="All" />
      <Heading level={2}>By what it goes over</Heading>
      {byBearer.map((one) => (
        <View key={one.name}>
          <Judgement of={one} enough={enough} title={one.name} />
          <Corrected by={corrections.find(({ name }) => name === one.name)} />
        </View>
      ))}
      <Heading level={2}>By what it rested on</Heading>
      {byBasis.map((one) => (
        <Judgement
          key={one.name}
          of={one}
          enough={enough}
          title={one.name === 'map' ? 'guesses from the map' : 'what was heard and tried'}
        />
      ))}
    </Stack>
  );
}

/** What is told of what was reckoned, since earlier forecasts came out so. */
function Corrected({ by }: { by: PredictionsView['corrections'][number] | undefined }) {
  if (!by) return null;
  const examples = by.examples.map(({ reckoned, told }) => `${ofHundred(reckoned)} is told as ${ofHundred(told)}`);
  return (
    <Stack gap={4}>
      <Body
        soft
      >{`New forecasts are corrected by how these came out, those of late more than older ones: of 100, ${examples.join(', ')}.`}</Body>
      {by.theirs.length === 0 ? null : (
        <>
          <Body soft>Those for one addressee besides, where they came out otherwise than for the rest:</Body>
          <Stack role="list" aria-label={`Addressees whose ${by.name} came out otherwise`} gap={2}>
            {by.theirs.map((one) => (
              <Body key={one.to} role="listitem">{`${one.to}: ${theirsInWords(one)}.`}</Body>
            ))}
          </Stack>
        </>
      )}
    </Stack>
  );
}

function Judgement({ of, enough, title }: { of: CalibrationView; enough: number; title: string }) {
  const { count, error, errorByChance, brier, parts } = of;
  const honest = error <= errorByChance;
  return (
    <View>
      <Body bold>{`${title.replace(/^./, (letter) => letter.toUpperCase())}: ${counted(count, 'sending')}`}</Body>
      {count < enough ? (
        <Body soft>{`Too few to judge: it takes ${enough}.`}</Body>
      ) : (
        <>
          <Body>
            {honest
              ? `No more off than chance alone makes it: ${points(error)} of 100 on average, where a perfect forecaster would be off by up to ${points(errorByChance)}.`
              : `Off by ${points(error)} of 100 on average; a perfect forecaster would be off by up to ${points(errorByChance)}. Take its chances with care.`}
          </Body>
          <Body soft>
            {`Brier score ${brier.toFixed(3)} (0 is perfect): reliability ${parts.reliability.toFixed(3)}, resolution ${parts.resolution.toFixed(3)}, uncertainty ${parts.uncertainty.toFixed(3)}.`}
          </Body>
        </>
      )}
    </View>
  );
}

const points = (share: number): string => (100 * share).toFixed(1);
