import { modemSettings } from '@tombolo/contract';
import { readDecimal } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../live/api';
import { useChange } from '../../live/queries';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Notice } from '../../ui/page';
import { megahertzInWords } from '../../ui/quantity';
import { Body } from '../../ui/text';
import type { OfModem } from './of-modem';

/** What is typed as a frequency; null for nothing, and not a number for what is none. */
export function megahertzOf(text: string): number | null {
  return text.trim() === '' ? null : readDecimal(text);
}

/** What is typed as a frequency; null for what is none. */
export function frequencyOf(text: string): number | null {
  const read = modemSettings.shape.frequencyMHz.safeParse(megahertzOf(text));
  return read.success ? read.data : null;
}

/** What the radio is tuned to: one press when it was retuned to a frequency that it was on before. */
export function Tuning({ bearer, config }: OfModem) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const retune = useChange(
    (frequencyMHz: number) => api.changeBearer(bearer.id, { ...config, frequencyMHz }),
    ['bearers'],
  );
  if (!bearer.tuned) return null;
  const { frequencyHz, before } = bearer.tuned;
  const submit = () => {
    const frequency = frequencyOf(typed ?? '');
    setWrong(frequency === null);
    if (frequency !== null) retune.mutate(frequency, { onSuccess: () => setTyped(null) });
  };
  return (
    <Stack gap={4}>
      <Body soft>
        {frequencyHz === null
          ? 'What its radio is tuned to is not known: what is heard cannot be told by frequency.'
          : `Tuned to ${megahertzInWords(frequencyHz)}.`}
      </Body>
      {typed === null ? (
        <Row wrap gap={8}>
          {before.map((hz) => (
            <Button
              key={hz}
              title={`I retuned to ${megahertzInWords(hz)}`}
              about={bearer.name}
              kind="plain"
              busy={retune.isPending}
              onPress={() => retune.mutate(hz / 1e6)}
            />
          ))}
          <Button
            title={frequencyHz === null ? 'Say its frequency' : 'I retuned to another frequency'}
            about={bearer.name}
            kind="plain"
            onPress={() => setTyped('')}
          />
        </Row>
      ) : (
        <View>
          <Field
            label="Tuned to, MHz"
            hint="Such as 144.800. From now on: what was heard before stays where it was heard."
            mono
            value={typed}
            onChangeText={setTyped}
            error={wrong ? 'a frequency in MHz, such as 144.800' : undefined}
          />
          <Row gap={8}>
            <Button title="It is tuned to that" about={bearer.name} busy={retune.isPending} onPress={submit} />
            <Button title="Cancel" kind="plain" onPress={() => setTyped(null)} />
          </Row>
        </View>
      )}
      {retune.isError ? (
        <Notice kind="alarm" title="That did not work">
          {retune.error.message}
        </Notice>
      ) : null}
    </Stack>
  );
}
