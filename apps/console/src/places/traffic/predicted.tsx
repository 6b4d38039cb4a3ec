import type { ItemDetail } from '@tombolo/contract';
import { ofHundred } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../ui/button';
import { Stack } from '../../ui/layout';
import { Body, Heading } from '../../ui/text';

/** What was expected when it was queued, as it was kept then; what that rested on is opened by a press. */
export function Predicted({ predictions }: Pick<ItemDetail, 'predictions'>) {
  const [open, setOpen] = useState(false);
  const all = Object.entries(predictions);
  if (all.length === 0) return null;
  return (
    <Stack above={16} below={12} gap={8} align="start">
      <Heading level={2}>What was expected</Heading>
      {all.map(([leg, { proven, basis, rests }]) => (
        <View key={leg}>
          <Body>
            {`When it was queued: of 100 such sendings about ${ofHundred(proven.chance)} would be proved (${ofHundred(proven.low)} to ${ofHundred(proven.high)}), ${basis === 'map' ? 'a guess' : 'by what was heard and tried'}.`}
          </Body>
          {open
            ? rests.map((words) => (
                <Body soft key={words}>
                  {words}
                </Body>
              ))
            : null}
        </View>
      ))}
      {all.some(([, { rests }]) => rests.length > 0) ? (
        <Button title={open ? 'Close' : 'What it rested on'} kind="plain" onPress={() => setOpen(!open)} />
      ) : null}
    </Stack>
  );
}
