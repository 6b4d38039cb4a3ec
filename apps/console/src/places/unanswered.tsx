import type { ItemSummary } from '@tombolo/contract';
import { counted } from '@tombolo/core';
import { useState } from 'react';
import { View } from 'react-native';
import { usePreferences } from '../live/preferences';
import { useOpenItems } from '../live/queries';
import { Button } from '../ui/button';
import { useTimed } from '../ui/clock';
import { Link } from '../ui/link';
import { Body } from '../ui/text';
import { Row } from '../ui/layout';

type Waiting = Pick<ItemSummary, 'heap' | 'direction' | 'kind' | 'createdAt'>;

/** Arrived items that need an answer for longer than that. */
export const unanswered = <I extends Waiting>(items: readonly I[], min: number, nowMs: number): I[] =>
  items.filter(
    ({ heap, direction, kind, createdAt }) =>
      heap === 'needs you' && direction === 'in' && kind !== 'bulletin' && nowMs - Date.parse(createdAt) > min * 60_000,
  );

/** Says on every place that something waits for an answer too long, where that is wished on this device. */
export function Unanswered() {
  const { data } = useOpenItems();
  const min = usePreferences(({ unansweredMin }) => unansweredMin);
  /** Those that somebody closed: said again when another one is late. */
  const [closed, setClosed] = useState('');
  const late = useTimed((now) =>
    min === null
      ? ''
      : unanswered(data?.rows ?? [], min, now)
          .map(({ id }) => id)
          .join(' '),
  );
  const ids = late === '' ? [] : late.split(' ');
  const known = new Set(closed.split(' '));
  const shown = ids.some((id) => !known.has(id));
  const words = `${counted(ids.length, 'item')} ${ids.length === 1 ? 'waits' : 'wait'} for an answer longer than ${min} min`;
  return (
    <View role="status" aria-live="polite">
      {shown ? (
        <Row role="region" aria-label="Unanswered" align="center" padLeft={12} ground="leaf" ruled="alarm">
          <Link href={ids.length === 1 ? `/traffic/${ids[0]!}` : '/traffic'} fill minHeight={48} justify="center">
            <Body bold tone="alarm">
              {words}
            </Body>
          </Link>
          <Button title="Close" about="what waits for an answer" kind="plain" onPress={() => setClosed(late)} />
        </Row>
      ) : null}
    </View>
  );
}
