import type { ItemSummary } from '@tombolo/contract';
import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { create } from 'zustand';
import { useOpenItems } from '../live/queries';
import { readKey } from '../live/read-marks';
import { Button } from '../ui/button';
import { Link, type Address } from '../ui/link';
import { Body, Spoken } from '../ui/text';
import { Row } from '../ui/layout';

/** What came within this time is told in one sentence. */
const TOGETHER_MS = 3000;

/** What is said of items that came to need somebody. */
export function arrivalWords(items: readonly Pick<ItemSummary, 'direction' | 'sender' | 'addressee'>[]): string {
  const [first, ...others] = items;
  if (!first) return '';
  if (others.length > 0) return `${items.length} more items need you.`;
  return first.direction === 'in' ? `From ${first.sender}: an item needs you.` : `To ${first.addressee}: it needs you.`;
}

interface Told {
  readonly words: string;
  /** Where it leads: to the item, or to all of them. */
  readonly href: Address;
  /** Counted, so that the same sentence is said again for the next one. */
  readonly count: number;
  /** Shown until it is followed, closed, or Traffic is looked at. */
  readonly shown: boolean;
}
const NOTHING: Told = { words: '', href: '/traffic', count: 0, shown: false };
const useTold = create<Told>()(() => NOTHING);

/** Tells what came to need somebody, calmly: once for all that came together, to whoever listens and, while another place is open, to the eye. */
export function Arrivals({ path }: { path: string }) {
  const { data } = useOpenItems();
  const known = useRef<ReadonlySet<string> | null>(null);
  const fresh = useRef<ItemSummary[]>([]);
  const { words, href, count, shown } = useTold();
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => {
    if (!data) return;
    const needing = data.rows.filter(({ heap }) => heap === 'needs you');
    // What is there when the page is opened is shown, and no news.
    if (known.current) {
      const came = needing.filter((item) => !known.current!.has(readKey(item)));
      // A text of which one more part came is still one.
      fresh.current = [...fresh.current.filter(({ id }) => !came.some((item) => item.id === id)), ...came];
    }
    known.current = new Set([...(known.current ?? []), ...needing.map(readKey)]);
    if (fresh.current.length === 0) return;
    timer.current ??= setTimeout(() => {
      timer.current = null;
      const [first, ...others] = fresh.current;
      useTold.setState({
        words: arrivalWords(fresh.current),
        href: first && others.length === 0 ? `/traffic/${first.id}` : '/traffic',
        count: useTold.getState().count + 1,
        shown: true,
      });
      fresh.current = [];
    }, TOGETHER_MS);
  }, [data]);
  useEffect(
    () => () => {
      if (timer.current) clearTimeout(timer.current);
      useTold.setState(NOTHING);
    },
    [],
  );
  const looking = path.startsWith('/traffic');
  useEffect(() => {
    if (looking) useTold.setState({ shown: false });
  }, [looking, count]);
  return (
    <>
      <View role="status" aria-live="polite">
        <Spoken key={count}>{words}</Spoken>
      </View>
      {shown && !looking ? <News words={words} href={href} /> : null}
    </>
  );
}

/** Above the place, as other news of the station are. */
function News({ words, href }: { words: string; href: Address }) {
  return (
    <Row role="region" aria-label="News" align="center" padLeft={12} ground="leaf" ruled="tide">
      <Link href={href} fill minHeight={48} justify="center">
        <Body bold tone="tide">
          {words}
        </Body>
      </Link>
      <Button title="Close" about="this news" kind="plain" onPress={() => useTold.setState({ shown: false })} />
    </Row>
  );
}
