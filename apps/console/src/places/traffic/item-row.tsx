import type { ItemSummary } from '@tombolo/contract';
import { neededOf } from '@tombolo/core';
import { memo } from 'react';
import { useTimeWords } from '../../live/preferences';
import { useUnread } from '../../live/read-marks';
import { useTacticalName } from '../../live/tactical';
import { Causeway } from '../../ui/causeway';
import { useTimed } from '../../ui/clock';
import { Icon } from '../../ui/icon';
import { Row, Stack } from '../../ui/layout';
import { Link } from '../../ui/link';
import { useLook } from '../../ui/look';
import { Body, Mono, Spoken } from '../../ui/text';
import { age } from '../../ui/time';
import { inList } from '../../ui/repeated';

/** Who it is with: the other side of the item. */
export const otherSide = (item: ItemSummary): string => (item.direction === 'out' ? item.addressee : item.sender);

/** Of a text in parts all that is there, and how much that is. */
function firstWords({ subject, body, whole }: ItemSummary): string {
  if (whole) return `${whole.there < whole.of ? `${whole.there} of ${whole.of} parts: ` : ''}${whole.text}`;
  return subject ? `${subject} – ${body}` : body;
}

interface ItemRowProps {
  item: ItemSummary;
  selected: boolean;
}

/** One line of traffic: precedence, whom with, first words, the road, the rung in words, age. */
export const ItemRow = memo(function ItemRow({ item, selected }: ItemRowProps) {
  const look = useLook();
  const needed = neededOf(item.status, item.heap, item.direction);
  const unread = useUnread(item);
  const tactical = useTacticalName(otherSide(item), item.createdAt);
  const old = useTimed((now) => age(item.createdAt, now));
  const timeWords = useTimeWords();
  const { waitUntil } = item.status;
  const wait = useTimed((now) =>
    waitUntil && Date.parse(waitUntil) > now ? ` · wait until ${timeWords(waitUntil, now)}` : '',
  );
  const { deadline } = item;
  const until = useTimed((now) =>
    deadline && item.heap === 'on its way' && Date.parse(deadline) > now
      ? ` · tried until ${timeWords(deadline, now)}`
      : '',
  );
  const trouble = item.status.outcome === 'refused' || item.status.outcome === 'expired';
  return (
    <Link
      href={`/traffic/${item.id}`}
      current={selected ? 'true' : undefined}
      // The mark of the open item takes its 3 px from the padding, so that rows line up with headings.
      padLeft={13}
      padRight={16}
      gap={2}
      {...inList(selected)}
    >
      <Row align="center" gap={8}>
        <Icon
          name={
            item.kind === 'bulletin'
              ? 'bullhorn-outline'
              : item.kind === 'mail'
                ? 'email-outline'
                : item.direction === 'out'
                  ? 'arrow-up'
                  : 'arrow-down'
          }
          size={18}
          color={look.inkSoft}
        />
        <Spoken>{item.direction === 'out' ? 'to' : 'from'}</Spoken>
        <Mono bold numberOfLines={1} shrink={1}>
          {otherSide(item)}
        </Mono>
        {tactical === null ? null : (
          <Body soft numberOfLines={1} shrink={2}>
            {tactical}
          </Body>
        )}
        {item.kind === 'bulletin' ? <Mono soft>{item.addressee}</Mono> : null}
        {item.precedence === 'routine' ? null : (
          <Body bold tone={item.precedence === 'emergency' ? 'alarm' : 'sandText'}>
            {item.precedence}
          </Body>
        )}
        <Stack fill />
        <Mono soft size={14}>
          {old}
        </Mono>
      </Row>
      <Body bold={unread} numberOfLines={1}>
        {unread ? 'New: ' : ''}
        {firstWords(item)}
      </Body>
      <Row align="center" gap={10}>
        {item.causeway ? <Causeway road={item.causeway} width={104} /> : null}
        <Body tone={trouble ? 'sandText' : 'inkSoft'} fill size={15} line={20} numberOfLines={2}>
          {needed ? `${needed[0]!.toUpperCase()}${needed.slice(1)} · ` : ''}
          {item.status.words}
          {wait}
          {until}
        </Body>
      </Row>
    </Link>
  );
});
