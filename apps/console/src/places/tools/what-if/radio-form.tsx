import {
  BANDWIDTHS_HZ,
  checkMeshFrequency,
  readDecimal,
  SPREADING_FACTORS,
  type Change,
  type MeshRadio,
} from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { Row, Stack } from '../../../ui/layout';
import { numberOf } from '../reach/ends';
import { MOST_MESH_W } from './plan';

const FACTORS = SPREADING_FACTORS.map((n) => ({ id: String(n), title: String(n) }));
const WIDTHS = BANDWIDTHS_HZ.map((hz) => ({ id: String(hz), title: `${hz / 1000} kHz` }));

/** All nodes of a mesh on another band, spreading factor, bandwidth or power. */
export function RadioForm({ radio, add }: { radio: MeshRadio; add: (change: Change) => void }) {
  const [factor, setFactor] = useState(String(radio.spreadingFactor));
  const [width, setWidth] = useState(String(radio.bandwidthHz));
  const [frequency, setFrequency] = useState('');
  const [power, setPower] = useState('');
  const frequencyHz = frequency.trim() === '' ? radio.frequencyHz : Math.round(readDecimal(frequency.trim()) * 1e6);
  const checked = Number.isFinite(frequencyHz) ? checkMeshFrequency(frequencyHz, Number(width)) : null;
  const fault = checked === null ? 'a frequency in MHz, such as 869.525' : checked.ok ? null : checked.error.reason;
  const powerW = power.trim() === '' ? null : numberOf(power, 0.001, MOST_MESH_W);
  const submit = () => {
    if (fault !== null || typeof powerW === 'string') return;
    add({ what: 'radio', frequencyHz, spreadingFactor: Number(factor), bandwidthHz: Number(width), powerW });
  };
  return (
    <View>
      <Row wrap columnGap={16}>
        <Stack grow={1} basis={200}>
          <Field
            label="Middle of the channel, MHz"
            value={frequency}
            onChangeText={setFrequency}
            inputMode="decimal"
            hint={frequency.trim() === '' ? `Empty: ${radio.frequencyHz / 1e6}` : undefined}
            error={fault ?? undefined}
          />
        </Stack>
        <Stack grow={1} basis={200}>
          <Field
            label="Power of every node, W"
            value={power}
            onChangeText={setPower}
            inputMode="decimal"
            hint="Empty: what each has. How much is allowed there, your local rules say"
            error={typeof powerW === 'string' ? powerW : undefined}
          />
        </Stack>
      </Row>
      <Choice label="Spreading factor" value={factor} onChange={setFactor} options={FACTORS} />
      <Choice label="Bandwidth" value={width} onChange={setWidth} options={WIDTHS} />
      <Stack align="start">
        <Button title="Think it so" onPress={submit} />
      </Stack>
    </View>
  );
}
