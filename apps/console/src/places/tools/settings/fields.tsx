import { OWN_SYMBOLS, symbolInWords, symbolOf } from '@tombolo/core';
import { useState } from 'react';
import type { Control } from 'react-hook-form';
import { askDevice } from '../../../live/device-position';
import { Button } from '../../../ui/button';
import { FormField } from '../../../ui/form-field';
import { Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { LABELS, type Form, type TextField } from './form';
import { degreesOf } from './place';

interface TextRowProps {
  control: Control<Form>;
  name: TextField;
  hint: string;
  mono?: boolean;
}

/** A line of the settings. */
export const TextRow = ({ mono = true, ...row }: TextRowProps) => (
  <FormField {...row} label={LABELS[row.name]} mono={mono} />
);

/** The usual symbols, and the one that is set should it be another. */
export function symbolsWith(current: string) {
  const offered: readonly string[] = OWN_SYMBOLS;
  return [...new Set([...offered, current])].map((text) => {
    const symbol = symbolOf(text);
    return { id: text, title: symbol ? symbolInWords(symbol) : text };
  });
}

/** Fills in where this device is; for a station that stands where it is set up. */
export function TakeFromDevice({ onPlace }: { onPlace: (degrees: string) => void }) {
  const [asking, setAsking] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async () => {
    setAsking(true);
    setTrouble(null);
    const answer = await askDevice();
    setAsking(false);
    if (answer.state === 'known') onPlace(degreesOf(answer));
    else setTrouble(answer.reason);
  };
  return (
    <Stack align="start" gap={4}>
      <Button
        title="Take it from this device"
        icon="crosshairs-gps"
        kind="plain"
        busy={asking}
        onPress={() => void take()}
      />
      {trouble ? <Notice title="No position from this device">{trouble}</Notice> : null}
    </Stack>
  );
}
