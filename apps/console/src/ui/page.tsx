import { memo, useDeferredValue, useState, type ReactElement, type ReactNode } from 'react';
import {
  ActivityIndicator,
  FlatList,
  ScrollView,
  View,
  type NativeScrollEvent,
  type NativeSyntheticEvent,
} from 'react-native';
import { Icon, type IconName } from './icon';
import { focusHeading } from './heading-focus';
import { useKeptScroll } from './kept-scroll';
import type { Address } from './link';
import { useLook } from './look';
import { Body, Heading } from './text';
import { Button } from './button';

/** A scrolling page with its heading. */
export function Page({
  title,
  aside,
  children,
  maxWidth = 880,
}: {
  title: string;
  aside?: ReactNode;
  children: ReactNode;
  maxWidth?: number;
}) {
  const kept = useKeptScroll(title);
  return (
    <ScrollView {...kept} style={{ flex: 1 }} contentContainerStyle={{ padding: 16, paddingBottom: 48, maxWidth }}>
      <PageHead title={title} aside={aside} />
      {children}
    </ScrollView>
  );
}

interface LongPageProps<Row> {
  title: string;
  aside?: ReactNode;
  /** What stands above the rows. */
  head: ReactElement;
  rows: readonly Row[];
  /** What the rows are of, such as a search: of something else they are shown from their top. */
  of: string;
  keyOf: (row: Row) => string;
  draw: (row: Row) => ReactElement;
  /** What stands below the rows, or in their place. */
  foot?: ReactElement | null;
}

/** A row is drawn again when it became another, not when its neighbours did. */
const LongRow = memo(function LongRow({ row, draw }: { row: unknown; draw: (row: never) => ReactElement }) {
  return <View style={{ paddingHorizontal: 16 }}>{draw(row as never)}</View>;
});

/** A page of many rows: only those near what is seen are there at all. `draw` is the same function as long as it draws the same. */
export function LongPage<Row>({ title, aside, head, rows, of, keyOf, draw, foot }: LongPageProps<Row>) {
  const look = useLook();
  const kept = useKeptScroll(title);
  // A flood is drawn in pieces, between what the reader does.
  const held = useHeldBack(useDeferredValue(rows), of, keyOf);
  const list = (
    <FlatList
      {...kept}
      onScroll={(event) => {
        kept.onScroll(event);
        held.onScroll(event);
      }}
      style={{ flex: 1 }}
      contentContainerStyle={{ paddingBottom: 48, maxWidth: 880 }}
      data={held.shown}
      keyExtractor={keyOf}
      renderItem={({ item }) => <LongRow row={item} draw={draw} />}
      initialNumToRender={12}
      maxToRenderPerBatch={6}
      windowSize={5}
      ListHeaderComponent={
        <View style={{ padding: 16, paddingBottom: 0 }}>
          <PageHead title={title} aside={aside} />
          {head}
        </View>
      }
      ListFooterComponent={foot ? <View style={{ padding: 16 }}>{foot}</View> : null}
    />
  );
  return (
    <View style={{ flex: 1, minHeight: 0 }}>
      {list}
      {held.count > 0 ? (
        <View style={{ position: 'absolute', top: 8, left: 16, backgroundColor: look.paper }}>
          <Button title={`${held.count} new at the top`} icon="arrow-up" kind="plain" onPress={toHeading} />
        </View>
      ) : null}
    </View>
  );
}

/** To the top, with the focus, which would be lost with what was pressed. */
const toHeading = () => focusHeading()?.scrollIntoView({ block: 'end' });

/** From so far down on, what is new waits until the reader is back at the top. */
const READING_PX = 600;

/** What is shown to somebody who reads further down: nothing moves under their eyes. */
function useHeldBack<Row>(rows: readonly Row[], of: string, keyOf: (row: Row) => string) {
  const [held, hold] = useState<{ readonly of: string; readonly at: string | null }>({ of, at: null });
  if (held.of !== of) hold({ of, at: null });
  const heldAt = held.of === of ? held.at : null;
  const count =
    heldAt === null
      ? 0
      : Math.max(
          0,
          rows.findIndex((row) => keyOf(row) === heldAt),
        );
  return {
    count,
    shown: count > 0 ? rows.slice(count) : rows,
    onScroll({ nativeEvent }: NativeSyntheticEvent<NativeScrollEvent>) {
      const reads = nativeEvent.contentOffset.y > READING_PX;
      const [first] = rows;
      if (!reads) hold({ of, at: null });
      else if (heldAt === null && first !== undefined) hold({ of, at: keyOf(first) });
    },
  };
}

function PageHead({ title, aside }: { title: string; aside?: ReactNode }) {
  return (
    <View
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        justifyContent: 'space-between',
        marginBottom: 12,
        gap: 12,
      }}
    >
      <Heading level={1} shrink={1}>
        {title}
      </Heading>
      {aside}
    </View>
  );
}

export function Rule() {
  const look = useLook();
  return <View style={{ height: 1, backgroundColor: look.rule, marginVertical: 16 }} />;
}

/** Word of something that matters now. `alarm` for what is wrong. */
export function Notice({
  kind = 'note',
  title,
  children,
}: {
  kind?: 'note' | 'alarm';
  title: string;
  children?: ReactNode;
}) {
  const look = useLook();
  const tone = kind === 'alarm' ? 'alarm' : 'sandText';
  return (
    <View
      role={kind === 'alarm' ? 'alert' : 'status'}
      style={{ borderLeftWidth: 4, borderLeftColor: look[tone], paddingLeft: 12, paddingVertical: 4, marginBottom: 16 }}
    >
      <Body bold tone={tone}>
        {title}
      </Body>
      {typeof children === 'string' ? <Body>{children}</Body> : children}
    </View>
  );
}

/** What an empty screen teaches: what will appear, when, and the one next step. */
export function Empty({
  icon,
  title,
  children,
  action,
}: {
  icon: IconName;
  title: string;
  children: string;
  action?: { title: string } & ({ href: Address } | { onPress: () => void });
}) {
  const look = useLook();
  return (
    <View style={{ paddingVertical: 32, gap: 8, alignItems: 'flex-start', maxWidth: 480 }}>
      <Icon name={icon} size={32} color={look.inkSoft} />
      <Heading level={2}>{title}</Heading>
      <Body soft>{children}</Body>
      {action ? <Button {...action} kind="plain" /> : null}
    </View>
  );
}

export function Waiting({ what }: { what: string }) {
  const look = useLook();
  return (
    <View role="status" style={{ flexDirection: 'row', gap: 12, paddingVertical: 24, alignItems: 'center' }}>
      {/* What turns has no name of its own: the words beside it say what is waited for. */}
      <ActivityIndicator color={look.tide} aria-hidden />
      <Body soft>{`Loading ${what}…`}</Body>
    </View>
  );
}

/** What went wrong with loading, and the way to try again. */
export function Trouble({ error, retry }: { error: Error; retry?: () => void }) {
  return (
    <Notice kind="alarm" title="This could not be loaded">
      <Body>{error.message}</Body>
      {retry ? <Button title="Try again" onPress={retry} kind="plain" /> : null}
    </Notice>
  );
}
