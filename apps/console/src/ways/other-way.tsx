import type { ItemDetail, ItemSummary, PlannedWay } from '@tombolo/contract';
import { rungIndex } from '@tombolo/core';
import { router } from 'expo-router';
import type { ReactNode } from 'react';
import { useDrafts } from '../drafts/drafts';
import { useBearers, useItems, useItemsNamed } from '../live/queries';
import { useTimeWords } from '../live/preferences';
import { Button } from '../ui/button';
import { useNow } from '../ui/clock';
import { Stack } from '../ui/layout';
import { Link } from '../ui/link';
import { Body, Heading } from '../ui/text';
import { partOf, takingWay } from './chosen';
import { carriagesOf, eitherWords, isUrgent, secondWay } from './second-way';
import { useWays } from './use-ways';

/** So long a text may be tried before another way is thought of. */
const PATIENCE_MS = 120_000;

/** Whether a text of ours is stuck: it ended without having arrived, or nothing answers. */
export function isStuck(
  { direction, kind, status, acknowledgementAsked, createdAt, legs }: ItemDetail,
  now: number,
): boolean {
  if (direction !== 'out' || kind !== 'text') return false;
  if (status.outcome === 'expired' || status.outcome === 'unknown') return true;
  const silent = status.outcome === null && (status.rung === 'sent' || status.rung === 'relayed');
  return (
    silent &&
    acknowledgementAsked &&
    legs.some(({ triesMade }) => triesMade > 1) &&
    now - Date.parse(createdAt) > PATIENCE_MS
  );
}

/** Whether a text of ours is urgent and nobody has it yet, so that a second way is worth its air time before the first one fails. */
export const wantsSecond = ({ direction, kind, status, precedence }: ItemDetail): boolean =>
  direction === 'out' &&
  kind === 'text' &&
  isUrgent(precedence) &&
  status.outcome === null &&
  rungIndex(status.rung) < rungIndex('accepted');

/** Of a text that is stuck: the surest way that was not tried. Of one that is urgent: a second way at once. Nothing is sent by itself. */
export function OtherWay({ item }: { item: ItemDetail }) {
  const now = useNow();
  if (isStuck(item, now)) return <Proposal item={item} />;
  return wantsSecond(item) ? <Proposal item={item} atOnce /> : null;
}

function Proposal({ item, atOnce = false }: { item: ItemDetail; atOnce?: boolean }) {
  const bearers = useBearers();
  const again = useWrittenAgain(item);
  const ways = useWays({ to: item.addressee, text: item.body, precedence: item.precedence, withinMin: null });
  if (!ways.data) return null;
  const { person } = ways.data;
  const tried = ways.data.ways.find((way) => wasTried(way, item));
  const untried = ways.data.ways.filter((way) => !wasTried(way, item));
  const way = atOnce ? secondWay(untried, carriagesOf(item, bearers.data ?? []), bearers.data ?? []) : untried[0];
  const second = way && again.find((one) => wasTried(way, one) && goesTo(way, one));
  const part = way ? partOf(way, bearers.data ?? []) : null;
  const heading = atOnce ? 'A second way at once' : 'Another way';
  if (!way || part === null)
    return atOnce ? null : (
      <Region heading={heading}>
        <Body soft>No other way is known. You can try again, or write it by a path of your own.</Body>
      </Region>
    );
  return (
    <Region heading={heading}>
      <Stack gap={8} align="start">
        <Body bold>{way.title}</Body>
        <Body>{way.sentences[0]}</Body>
        <Body soft>{way.sentences[1]}</Body>
        {tried && !atOnce ? <Body soft>{`As it was tried: ${tried.sentences[0]}`}</Body> : null}
        {atOnce ? <Body>{atOnceWords(tried, way)}</Body> : null}
        {item.status.outcome === null ? <Body>The first is still being tried: both may arrive.</Body> : null}
        {second ? (
          <WrittenAgain item={second} />
        ) : (
          <Button
            title="Write it again for this way"
            kind="plain"
            onPress={() => {
              const { startAnew, change } = useDrafts.getState();
              const draft = startAnew();
              change(takingWay(way, part, person, person ?? item.addressee, item.body));
              change({ precedence: item.precedence });
              router.navigate(`/write?draft=${draft}`);
            }}
          />
        )}
      </Stack>
    </Region>
  );
}

/** It was: offering it once more would invite a third. */
function WrittenAgain({ item: { id, createdAt } }: { item: ItemDetail }) {
  const timeWords = useTimeWords();
  return (
    <Link href={`/traffic/${id}`} minHeight={48} justify="center">
      <Body tone="tide">{`Written again this way at ${timeWords(createdAt)}: see what became of it`}</Body>
    </Link>
  );
}

const Region = ({ heading, children }: { heading: string; children: ReactNode }) => (
  <Stack role="region" aria-label={heading} below={12}>
    <Heading level={2}>{heading}</Heading>
    {children}
  </Stack>
);

function atOnceWords(tried: PlannedWay | undefined, second: PlannedWay): string {
  const why = 'It is urgent, and this way shares neither a transmitter nor those who repeat with the first';
  return tried ? `${why}: ${eitherWords(tried, second)}` : `${why}.`;
}

/** Whether a transmission of an item went that way. */
function wasTried({ send: { way, to } }: PlannedWay, { legs }: ItemDetail): boolean {
  return legs.some(
    (leg) =>
      leg.role === 'convey' &&
      leg.bearerId === way.bearerId &&
      (way.by === 'packets' ? leg.to === to && leg.path.join() === way.path.join() : true),
  );
}

/** Whether a text went to whom a way leads to, by address or by name. */
const goesTo = ({ send, strips }: PlannedWay, { legs }: ItemDetail): boolean =>
  legs.some(({ role, to }) => role === 'convey' && (to === send.to || to === strips[0]?.to));

/** More that say the same are not looked at. */
const MOST_AGAIN = 5;

/** Later texts of ours that say the same and were not cancelled, each with how it went. */
function useWrittenAgain(item: ItemDetail): ItemDetail[] {
  const items = useItems();
  const later = items.data?.pages
    .flatMap(({ rows }) => rows)
    .filter((one) => saysTheSame(one, item))
    .slice(0, MOST_AGAIN);
  return useItemsNamed(later?.map(({ id }) => id) ?? []);
}

const saysTheSame = (one: ItemSummary, item: ItemDetail): boolean =>
  one.direction === 'out' &&
  one.id !== item.id &&
  one.body === item.body &&
  one.createdAt > item.createdAt &&
  one.status.outcome !== 'cancelled';
