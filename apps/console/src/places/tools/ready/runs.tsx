import type { CheckRun } from '@tombolo/contract';
import type { OwnCause } from '@tombolo/core';
import { View } from 'react-native';
import { Instant } from '../../../ui/clock';
import { Stack } from '../../../ui/layout';
import { Rule } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { foundWords, symptomWords } from './words';

const SHOWN = 10;

/** Checks that came to their end. */
export function Runs({ runs, own }: { runs: readonly CheckRun[]; own: readonly OwnCause[] }) {
  if (runs.length === 0) return null;
  return (
    <View>
      <Rule />
      <Heading level={2}>Found before</Heading>
      <View role="list" aria-label="Found before">
        {runs.slice(0, SHOWN).map(({ id, symptom, found, fixed, at }) => (
          <Stack key={id} role="listitem" padY={6} ruled>
            <Body>{`${symptomWords(symptom)}: ${fixed ? foundWords(symptom, found, own) : 'not found'}`}</Body>
            <Body soft>
              <Instant iso={at} />
            </Body>
          </Stack>
        ))}
      </View>
    </View>
  );
}
