import type { ItemDetail, PlannedWay } from '@tombolo/contract';
import { router } from 'expo-router';
import { View } from 'react-native';
import { useDrafts } from '../drafts/drafts';
import { useBearers } from '../live/queries';
import { Button } from '../ui/button';
import { useNow } from '../ui/clock';
import { Body, Heading } from '../ui/text';
import { partOf, takingWay } from './chosen';
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

/** Of a text that is stuck: the surest way that was not tried. Nothing is sent by itself. */
export function OtherWay({ item }: { item: ItemDetail }) {
  const now = useNow();
  return isStuck(item, now) ? <Proposal item={item} /> : null;
}

function Proposal({ item }: { item: ItemDetail }) {
  const bearers = useBearers();
  const ways = useWays({ to: item.addressee, text: item.body, precedence: item.precedence, withinMin: null });
  const untried = ways.data?.ways.filter((way) => !wasTried(way, item)) ?? [];
  const tried = ways.data?.ways.find((way) => wasTried(way, item));
  const [way] = untried;
  const part = way ? partOf(way, bearers.data ?? []) : null;
  if (!ways.data) return null;
  return (
    <View role="region" aria-label="Another way" style={{ marginBottom: 12 }}>
      <Heading level={2}>Another way</Heading>
      {way && part !== null ? (
        <View style={{ gap: 8, alignItems: 'flex-start' }}>
          <Body bold>{way.title}</Body>
          <Body>{way.sentences[0]}</Body>
          <Body soft>{way.sentences[1]}</Body>
          {tried ? <Body soft>{`As it was tried: ${tried.sentences[0]}`}</Body> : null}
          {item.status.outcome === null ? <Body>The first is still being tried: both may arrive.</Body> : null}
          <Button
            title="Write it again for this way"
            kind="plain"
            onPress={() => {
              const { startAnew, change } = useDrafts.getState();
              startAnew();
              change(takingWay(way, part, ways.data.person, ways.data.person ?? item.addressee, item.body));
              change({ precedence: item.precedence });
              router.navigate('/write');
            }}
          />
        </View>
      ) : (
        <Body soft>No other way is known. You can try again, or write it by a path of your own.</Body>
      )}
    </View>
  );
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
