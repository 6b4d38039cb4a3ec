import type { ItemSummary } from '@tombolo/contract';
import type { Heap } from '@tombolo/core';
import { useMemo, useState } from 'react';
import { SectionList, View } from 'react-native';
import { useItems, useOpenItems, useSettings } from '../../live/queries';
import { Button } from '../../ui/button';
import { useLook } from '../../ui/look';
import { useKeptScroll } from '../../ui/kept-scroll';
import { Empty, Trouble, Waiting } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { ItemRow } from './item-row';

const HEAPS: readonly { readonly heap: Heap; readonly title: string }[] = [
  { heap: 'needs you', title: 'Needs you' },
  { heap: 'on its way', title: 'On its way' },
  { heap: 'arrived', title: 'Arrived' },
  { heap: 'filed', title: 'Filed' },
];

/** Items by what needs somebody; empty heaps are left out. */
export function byHeap(items: readonly ItemSummary[]): { heap: Heap; title: string; data: ItemSummary[] }[] {
  return HEAPS.map(({ heap, title }) => ({ heap, title, data: items.filter((item) => item.heap === heap) })).filter(
    (section) => section.data.length > 0,
  );
}

/** Each item once, the newest state of the two lists that may hold it. */
function newestFirst(items: readonly ItemSummary[]): ItemSummary[] {
  const byId = new Map<string, ItemSummary>();
  for (const item of items) byId.set(item.id, item);
  return [...byId.values()].sort((a, b) => (a.createdAt < b.createdAt ? 1 : a.createdAt > b.createdAt ? -1 : 0));
}

/** What is in hand. */
export function TrafficList({ selectedId }: { selectedId: string | null }) {
  const look = useLook();
  const items = useItems();
  const settings = useSettings();
  const [showFiled, setShowFiled] = useState(false);
  const open = useOpenItems();
  const kept = useKeptScroll('traffic');
  // What needs somebody is here however old it is; the rest comes page by page.
  const all = useMemo(
    () => newestFirst([...(open.data?.rows ?? []), ...(items.data?.pages.flatMap((page) => page.rows) ?? [])]),
    [open.data, items.data],
  );
  const sections = useMemo(
    () => byHeap(all).map((section) => (section.heap === 'filed' && !showFiled ? { ...section, data: [] } : section)),
    [all, showFiled],
  );
  const filed = all.filter((item) => item.heap === 'filed').length;
  if (items.isPending)
    return (
      <View style={{ padding: 16 }}>
        <Waiting what="traffic" />
      </View>
    );
  if (items.isError)
    return (
      <View style={{ padding: 16 }}>
        <Trouble error={items.error} retry={() => void items.refetch()} />
      </View>
    );
  return (
    <SectionList
      {...kept}
      style={{ flex: 1 }}
      sections={sections}
      keyExtractor={(item) => item.id}
      stickySectionHeadersEnabled={false}
      ListHeaderComponent={
        <View
          style={{
            flexDirection: 'row',
            justifyContent: 'space-between',
            alignItems: 'baseline',
            padding: 16,
            paddingBottom: 0,
          }}
        >
          <Heading level={1}>Traffic</Heading>
          {settings.data?.call ? (
            <Mono soft aria-label="Own station">
              {settings.data.call + (settings.data.ssid ? `-${settings.data.ssid}` : '')}
            </Mono>
          ) : null}
        </View>
      }
      ListEmptyComponent={
        <View style={{ padding: 16 }}>
          <Empty icon="swap-horizontal" title="Nothing in hand" action={{ title: 'Write a text', href: '/write' }}>
            Texts you send and texts for your station appear here, with the road they took and what proves it.
          </Empty>
        </View>
      }
      renderSectionHeader={({ section }) => (
        <View
          style={{
            paddingHorizontal: 16,
            paddingTop: 18,
            paddingBottom: 6,
            borderBottomWidth: 1,
            borderBottomColor: look.rule,
            flexDirection: 'row',
            gap: 8,
            alignItems: 'center',
          }}
        >
          <Heading level={2}>{section.title}</Heading>
          <Mono soft>
            {section.heap === 'filed' ? filed : section.data.length}
            {section.heap === 'needs you' && open.data?.more ? ' or more' : ''}
          </Mono>
          <View style={{ flex: 1 }} />
          {section.heap === 'filed' ? (
            <Button
              title={showFiled ? 'Hide' : 'Show'}
              about="filed items"
              kind="plain"
              onPress={() => setShowFiled(!showFiled)}
            />
          ) : null}
        </View>
      )}
      renderItem={({ item }) => <ItemRow item={item} selected={item.id === selectedId} />}
      ListFooterComponent={
        items.hasNextPage ? (
          <View style={{ padding: 16 }}>
            <Button
              title="Show older"
              kind="plain"
              busy={items.isFetchingNextPage}
              onPress={() => void items.fetchNextPage()}
            />
          </View>
        ) : (
          <Body> </Body>
        )
      }
    />
  );
}
