import type { OwnBulletinView } from '@tombolo/contract';
import { counted } from '@tombolo/core';
import { useChange } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Instant } from '../../../ui/clock';
import { Row, Stack } from '../../../ui/layout';
import { Notice } from '../../../ui/page';
import { RemoveButton } from '../../../ui/remove-button';
import { Body } from '../../../ui/text';
import { bulletinsAtStation } from './at-station';
import { ownLineWords } from './line-words';

/** One of ours, with what became of it. */
export function OwnRow({ bulletin, change }: { bulletin: OwnBulletinView; change: () => void }) {
  const end = useChange(bulletinsAtStation.end, ['bulletins', 'transmissions']);
  const name = ownLineWords(bulletin);
  const { live, endedAt, until, everyMin, times, lastAt } = bulletin;
  return (
    <Stack role="listitem" padY={10} gap={4} ruled>
      <Body bold>{name}</Body>
      <Body>{bulletin.text}</Body>
      <Body soft>
        {live ? `Every ${everyMin} min until ` : endedAt ? 'Taken back at ' : 'Over since '}
        <Instant iso={endedAt ?? until} />
        {times > 0 ? ` · sent ${counted(times, 'time')}, last at ` : ' · not sent yet'}
        {lastAt ? <Instant iso={lastAt} /> : null}
      </Body>
      {bulletin.stopped ? <Body tone="alarm">{bulletin.stopped}</Body> : null}
      {end.isError ? (
        <Notice kind="alarm" title="Not taken back">
          {end.error.message}
        </Notice>
      ) : null}
      <Row wrap gap={8}>
        <Button title={live ? 'Change' : 'Tell it again'} about={name} kind="plain" onPress={change} />
        {live ? (
          <RemoveButton
            title="Tell it no more"
            about={name}
            busy={end.isPending}
            onRemove={() => end.mutate(bulletin)}
          />
        ) : null}
      </Row>
    </Stack>
  );
}
