import { MOST_OFF, type Reliance } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../../ui/button';
import { CheckRow } from '../../../ui/choice';
import { Row } from '../../../ui/layout';
import { Body, Heading } from '../../../ui/text';
import { relianceInWords } from './off-in-words';

interface WhatMayFailProps {
  /** On what ways rely as things are; it stays in that order, whatever is thought off. */
  asItIs: readonly Reliance[];
  /** The same with what is thought off; null while it is reckoned. */
  now: readonly Reliance[] | null;
  off: readonly string[];
  setOff: (off: readonly string[]) => void;
}

/** On what ways rely, with who hangs on it alone: each can be thought off. */
export function WhatMayFail({ asItIs, now, off, setOff }: WhatMayFailProps) {
  const [all, setAll] = useState(false);
  const nowOf = new Map((now ?? []).map((one) => [one.id, one]));
  const known = new Set(asItIs.map(({ id }) => id));
  const things: readonly Reliance[] = [
    ...asItIs,
    // What takes the place of what is off, and what an address names that nothing relies on.
    ...(now ?? []).filter(({ id }) => !known.has(id)),
    ...off.filter((id) => !known.has(id)).map((id) => ({ id, what: 'station' as const, label: id, needed: [] })),
  ];
  const tells = ({ id, needed }: Reliance) =>
    needed.length > 0 || off.includes(id) || (nowOf.get(id)?.needed.length ?? 0) > 0;
  const telling = things.filter(tells);
  const shown = all ? [...telling, ...things.filter((one) => !tells(one))] : telling;
  const turn = (id: string, isOff: boolean) =>
    setOff(isOff ? [...off, id].slice(-MOST_OFF) : off.filter((other) => other !== id));
  return (
    <View>
      <Heading level={2}>What may fail</Heading>
      <Body soft below={8}>
        {things.length === 0
          ? 'No way is known to anybody on your list, so that none can fail.'
          : telling.length === 0
            ? 'Nothing that fails alone leaves anybody on your list without a way.'
            : 'What leaves somebody without any way when it fails alone comes first. Tick what you think off.'}
      </Body>
      <View role="group" aria-label="Thought off">
        {shown.map(({ id, ...thing }) => (
          <CheckRow
            key={id}
            label={relianceInWords(thing)}
            {...hintOf(off.includes(id), nowOf.get(id), off.length > 0)}
            checked={off.includes(id)}
            onChange={(isOff) => turn(id, isOff)}
          />
        ))}
      </View>
      <Row wrap gap={8}>
        {things.length > telling.length ? (
          <Button
            title={all ? 'Only what somebody hangs on' : `All that is made use of (${things.length})`}
            kind="plain"
            onPress={() => setAll(!all)}
          />
        ) : null}
        {off.length > 0 ? <Button title="All as it is" icon="undo" kind="plain" onPress={() => setOff([])} /> : null}
      </Row>
    </View>
  );
}

function hintOf(isOff: boolean, now: Reliance | undefined, isThought: boolean): { hint?: string } {
  if (isOff) return { hint: 'Thought off.' };
  if (!now || now.needed.length === 0) return {};
  return { hint: `Without it ${isThought ? 'as well ' : ''}nothing is left to ${now.needed.join(', ')}.` };
}
