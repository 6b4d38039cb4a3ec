import type { WaitingView } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../live/api';
import { useChange } from '../live/queries';
import { Button } from '../ui/button';
import { CheckRow } from '../ui/choice';
import { useNow } from '../ui/clock';
import { Notice } from '../ui/page';
import { Overlay } from '../ui/overlay';
import { Body } from '../ui/text';
import { age } from '../ui/time';

interface BeforeUnlockingProps {
  waiting: readonly WaitingView[];
  /** Everything is held besides: unlocked, it waits on. */
  held: boolean;
  /** Answers the question that still holds the transmitter. */
  unlock: () => Promise<unknown>;
  close: () => void;
}

/** How long they hold the channel together, as far as that is known. */
export function airWords(waiting: readonly WaitingView[]): string {
  const known = waiting.flatMap(({ airMs }) => (airMs === null ? [] : [airMs]));
  if (known.length === 0) return '';
  const seconds = (known.reduce((sum, ms) => sum + ms, 0) / 1000).toFixed(1);
  return known.length === waiting.length ? `, ${seconds} s on the air` : `, ${seconds} s on the air and more`;
}

/** Before anything goes out: what waits, how old it is, what it costs, and what of it shall go. */
export function BeforeUnlocking({ waiting, held, unlock, close }: BeforeUnlockingProps) {
  const now = useNow();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const going = waiting.filter(({ id }) => !left.has(id));
  const go = useChange(async () => {
    // First what shall not go: should that fail, nothing is unlocked.
    if (left.size > 0) await api.dropWaiting([...left]);
    await unlock();
  }, ['settings', 'items', 'bearers', 'transmissions']);
  const turn = (id: string, wanted: boolean) => {
    const next = new Set(left);
    if (wanted) next.delete(id);
    else next.add(id);
    setLeft(next);
  };
  return (
    <Overlay title={held ? 'This goes out when you let it go on' : 'This goes out when you unlock'} close={close}>
      <Body>
        One after the other, with room for others between. What you leave out is taken off the queue, and that is on
        record.
      </Body>
      <View role="list" aria-label="What waits">
        {waiting.map(({ id, to, words, queuedAt, bearer, airMs }) => (
          <View role="listitem" key={id}>
            <CheckRow
              label={`To ${to}: ${words}`}
              hint={`${age(queuedAt, now)} old, by ${bearer}${airMs === null ? '' : `, ${(airMs / 1000).toFixed(1)} s`}`}
              checked={!left.has(id)}
              onChange={(wanted) => turn(id, wanted)}
            />
          </View>
        ))}
      </View>
      {go.isError ? (
        <Notice kind="alarm" title="That did not work">
          {go.error.message}
        </Notice>
      ) : null}
      <Button
        title={
          going.length === 0
            ? 'Unlock and send nothing of it'
            : `Unlock and ${held ? 'keep' : 'send'} ${going.length} of ${waiting.length}${airWords(going)}`
        }
        busy={go.isPending}
        onPress={() => go.mutate(undefined, { onSuccess: close })}
      />
    </Overlay>
  );
}
