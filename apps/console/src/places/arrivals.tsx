import type { ItemSummary } from '@tombolo/contract';
import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { useOpenItems } from '../live/queries';
import { Spoken } from '../ui/text';

/** What came within this time is told in one sentence. */
const TOGETHER_MS = 3000;

/** What is said of items that came to need somebody. */
export function arrivalWords(items: readonly Pick<ItemSummary, 'direction' | 'sender' | 'addressee'>[]): string {
  const [first, ...others] = items;
  if (!first) return '';
  if (others.length > 0) return `${items.length} more items need you.`;
  return first.direction === 'in' ? `From ${first.sender}: an item needs you.` : `To ${first.addressee}: it needs you.`;
}

/** Tells whoever listens what came to need somebody, calmly: once for all that came together. */
export function Arrivals() {
  const { data } = useOpenItems();
  const known = useRef<ReadonlySet<string> | null>(null);
  const fresh = useRef<ItemSummary[]>([]);
  // Counted, so that the same sentence is said again for the next one.
  const [told, setTold] = useState({ words: '', count: 0 });
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => {
    if (!data) return;
    const needing = data.rows.filter(({ heap }) => heap === 'needs you');
    // What is there when the page is opened is shown, and no news.
    if (known.current) fresh.current.push(...needing.filter(({ id }) => !known.current!.has(id)));
    known.current = new Set([...(known.current ?? []), ...needing.map(({ id }) => id)]);
    if (fresh.current.length === 0) return;
    timer.current ??= setTimeout(() => {
      timer.current = null;
      const words = arrivalWords(fresh.current);
      fresh.current = [];
      setTold(({ count }) => ({ words, count: count + 1 }));
    }, TOGETHER_MS);
  }, [data]);
  useEffect(
    () => () => {
      if (timer.current) clearTimeout(timer.current);
    },
    [],
  );
  return (
    <View role="status" aria-live="polite">
      <Spoken key={told.count}>{told.words}</Spoken>
    </View>
  );
}
