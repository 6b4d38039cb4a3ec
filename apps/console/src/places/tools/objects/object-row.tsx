import type { OwnObject } from '@tombolo/contract';
import { locatorOf, symbolInWords, symbolOf } from '@tombolo/core';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Instant } from '../../../ui/clock';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { RemoveButton } from '../../../ui/remove-button';
import { Body, Mono } from '../../../ui/text';
import { objectsAtStation } from './at-station';

/** One of ours, with what became of it. */
export function ObjectRow({ thing, change }: { thing: OwnObject; change: () => void }) {
  const end = useChange(objectsAtStation.end, ['own objects', 'transmissions']);
  const symbol = symbolOf(thing.symbol);
  return (
    <Stack role="listitem" padY={10} gap={4} ruled>
      <Mono bold>{thing.name}</Mono>
      <Body>{[symbol ? symbolInWords(symbol) : '', locatorOf(thing), thing.comment].filter(Boolean).join(' · ')}</Body>
      <Body soft>
        {thing.live ? `Every ${thing.everyMin} min` : thing.takenBy ? 'Not ours any more' : 'Taken off the map'}
        {thing.times > 0
          ? ` · sent ${thing.times === 1 ? 'once' : `${thing.times} times`}, last at `
          : ' · not sent yet'}
        {thing.lastAt ? <Instant iso={thing.lastAt} /> : null}
      </Body>
      {thing.stopped ? <Body tone="alarm">{thing.stopped}</Body> : null}
      {end.isError ? (
        <Notice kind="alarm" title="Not taken off">
          {end.error.message}
        </Notice>
      ) : null}
      {thing.live ? (
        <Row wrap gap={8}>
          <Button title="Move or change" about={thing.name} kind="plain" onPress={change} />
          <RemoveButton
            title="Take it off the map"
            about={thing.name}
            busy={end.isPending}
            onRemove={() => end.mutate(thing)}
          />
        </Row>
      ) : thing.takenBy ? (
        <Button title="Take it back" about={thing.name} kind="plain" onPress={change} />
      ) : null}
    </Stack>
  );
}
