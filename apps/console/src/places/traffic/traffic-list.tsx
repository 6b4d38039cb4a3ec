import { ownStation, type ItemSummary } from '@tombolo/contract';
import { counted, type Heap } from '@tombolo/core';
import { useDeferredValue, useMemo, useState } from 'react';
import { SectionList } from 'react-native';
import { useItems, useOpenItems, useSettings } from '../../live/queries';
import { filling } from '../../ui/filling';
import { Button } from '../../ui/button';
import { useKeptScroll } from '../../ui/kept-scroll';
import { Row, Stack } from '../../ui/layout';
import { Empty, Trouble, Waiting } from '../../ui/page';
import { Body, Heading, Mono } from '../../ui/text';
import { isNew } from '../start/steps';
import { useFiling } from './filing';
import { ItemRow } from './item-row';
import { TrafficHead, useTrafficSearch } from './traffic-head';

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
  const { text: search } = useTrafficSearch();
  const wanted = useDeferredValue(search.trim());
  const items = useItems(wanted);
  const filing = useFiling();
  const settings = useSettings();
  const [showFiled, setShowFiled] = useState(false);
  const open = useOpenItems();
  const kept = useKeptScroll('traffic');
  // What needs somebody is here however old it is; the rest comes page by page.
  const all = useMemo(
    () =>
      newestFirst([
        ...(wanted === '' ? (open.data?.rows ?? []) : []),
        ...(items.data?.pages.flatMap((page) => page.rows) ?? []),
      ]),
    [open.data, items.data, wanted],
  );
  const sections = useMemo(
    () =>
      byHeap(all).map((section) =>
        section.heap === 'filed' && !showFiled && wanted === '' ? { ...section, data: [] } : section,
      ),
    [all, showFiled, wanted],
  );
  const filed = all.filter((item) => item.heap === 'filed').length;
  return (
    <SectionList
      {...kept}
      style={filling}
      sections={sections}
      keyExtractor={(item) => item.id}
      stickySectionHeadersEnabled={false}
      ListHeaderComponent={
        <Stack pad={16} padBottom={0}>
          <TrafficHead own={settings.data ? ownStation(settings.data) : null} />
          {filing.word}
          {items.isPending ? <Waiting what="traffic" /> : null}
          {items.isError ? <Trouble error={items.error} retry={() => void items.refetch()} /> : null}
        </Stack>
      }
      ListEmptyComponent={
        items.data ? (
          <Stack pad={16}>
            {wanted ? (
              <Empty icon="magnify" title="Nothing matches">
                Try part of a call sign or another word.
              </Empty>
            ) : (
              <Empty
                icon="swap-horizontal"
                title="Nothing in hand"
                action={
                  settings.data && isNew(settings.data, [])
                    ? { title: 'First steps', href: '/start' }
                    : { title: 'Write a text', href: '/write' }
                }
              >
                Texts you send and texts for your station appear here, with the road they took and what proves it.
              </Empty>
            )}
          </Stack>
        ) : null
      }
      renderSectionHeader={({ section }) => (
        <Row padX={16} padTop={18} padBottom={6} ruled gap={8} align="center">
          <Heading level={2}>{section.title}</Heading>
          <Mono soft>
            {section.heap === 'filed' ? filed : section.data.length}
            {section.heap === 'needs you' && open.data?.more ? ' or more' : ''}
          </Mono>
          <Stack fill />
          {section.heap === 'arrived' && section.data.length > 1 ? (
            <Button
              title="File these"
              about={counted(section.data.length, 'arrived item')}
              kind="plain"
              busy={filing.busy}
              onPress={() => filing.file(section.data.map(({ id }) => id))}
            />
          ) : null}
          {section.heap === 'filed' && wanted === '' ? (
            <Button
              title={showFiled ? 'Hide' : 'Show'}
              about="filed items"
              kind="plain"
              onPress={() => setShowFiled(!showFiled)}
            />
          ) : null}
        </Row>
      )}
      renderItem={({ item }) => <ItemRow item={item} selected={item.id === selectedId} />}
      ListFooterComponent={
        items.hasNextPage ? (
          <Stack pad={16}>
            <Button
              title="Show older"
              kind="plain"
              busy={items.isFetchingNextPage}
              onPress={() => void items.fetchNextPage()}
            />
          </Stack>
        ) : (
          <Body> </Body>
        )
      }
    />
  );
}
