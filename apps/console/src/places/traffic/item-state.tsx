import type { ItemDetail } from '@tombolo/contract';
import { useTimeWords } from '../../live/preferences';
import { useNow } from '../../ui/clock';
import { Stack } from '../../ui/layout';
import { Body, Heading } from '../../ui/text';

/** How far an item is, what would prove more, and when that may come: the one part of its page that follows the clock. */
export function ItemState({
  item: { status, legs, deadline },
}: {
  item: Pick<ItemDetail, 'status' | 'legs' | 'deadline'>;
}) {
  const now = useNow(1000);
  const timeWords = useTimeWords();
  const nextTry = legs.find((leg) => leg.role === 'convey' && leg.nextAt !== null && leg.held === null);
  return (
    <Stack aria-live="polite" below={16} gap={4}>
      <Heading level={2}>{status.words}</Heading>
      {status.wouldProve ? (
        <Body soft>
          {`More would be proven by ${status.wouldProve}`}
          {status.waitUntil
            ? Date.parse(status.waitUntil) > now
              ? `; worth waiting for until ${timeWords(status.waitUntil, now)}.`
              : '; nothing came in the time it usually takes.'
            : '.'}
        </Body>
      ) : null}
      {nextTry?.nextAt && nextTry.triesMade > 0 ? (
        <Body soft>
          {deadline && Date.parse(nextTry.nextAt) >= Date.parse(deadline)
            ? `Try ${nextTry.triesMade} of ${nextTry.tries}: no further one fits before its deadline, ${timeWords(deadline, now)}.`
            : nextTry.triesMade < nextTry.tries
              ? `Try ${nextTry.triesMade} of ${nextTry.tries}; the next one at ${timeWords(nextTry.nextAt, now)} unless an acknowledgement comes.`
              : `Try ${nextTry.triesMade} of ${nextTry.tries}: no further one is made.`}
        </Body>
      ) : null}
    </Stack>
  );
}
