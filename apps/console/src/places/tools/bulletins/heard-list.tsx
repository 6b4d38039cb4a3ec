import type { HeardBulletin } from '@tombolo/contract';
import { counted, distanceInWords } from '@tombolo/core';
import { View } from 'react-native';
import { useDistanceUnit } from '../../../live/preferences';
import { useNow } from '../../../ui/clock';
import { Stack } from '../../../ui/layout';
import { Link } from '../../../ui/link';
import { Body, Mono } from '../../../ui/text';
import { age } from '../../../ui/time';
import { lineWords } from './line-words';

/** What others tell everybody, in the order in which it is read. */
export function HeardList({ bulletins }: { bulletins: readonly HeardBulletin[] }) {
  return (
    <View role="list" aria-label="Heard bulletins">
      {bulletins.map((bulletin) => (
        <HeardRow key={bulletin.item} bulletin={bulletin} />
      ))}
    </View>
  );
}

function HeardRow({ bulletin }: { bulletin: HeardBulletin }) {
  const now = useNow();
  const unit = useDistanceUnit();
  const { sender, text, over, replaced, times, lastAt, distanceKm } = bulletin;
  const far = distanceKm === null ? null : distanceInWords(distanceKm, unit);
  const state = replaced ? 'replaced by a later one' : over ? 'over' : null;
  return (
    <Stack role="listitem" ruled>
      <Link href={`/traffic/${bulletin.item}`} padY={10} gap={2}>
        <Body bold soft={over}>
          {lineWords(bulletin)}
          {state ? ` – ${state}` : ''}
        </Body>
        <Body soft={over}>{text}</Body>
        <Body soft>
          <Mono soft>{sender}</Mono>
          {[far, `heard ${counted(times, 'time')}`, `last ${age(lastAt, now)} ago`]
            .filter((word) => word !== null)
            .map((word) => ` · ${word}`)
            .join('')}
        </Body>
      </Link>
    </Stack>
  );
}
