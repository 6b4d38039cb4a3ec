import type { ReactElement, ReactNode } from 'react';
import { ActivityIndicator, FlatList, ScrollView, View, type ViewStyle } from 'react-native';
import { Icon, type IconName } from './icon';
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
  style,
}: {
  title: string;
  aside?: ReactNode;
  children: ReactNode;
  style?: ViewStyle;
}) {
  const kept = useKeptScroll(title);
  return (
    <ScrollView
      {...kept}
      style={{ flex: 1 }}
      contentContainerStyle={[{ padding: 16, paddingBottom: 48, maxWidth: 880 }, style]}
    >
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
  keyOf: (row: Row) => string;
  draw: (row: Row) => ReactElement;
  /** What stands below the rows, or in their place. */
  foot?: ReactElement | null;
}

/** A page of many rows: only those near what is seen are there at all. */
export function LongPage<Row>({ title, aside, head, rows, keyOf, draw, foot }: LongPageProps<Row>) {
  const kept = useKeptScroll(title);
  return (
    <FlatList
      {...kept}
      style={{ flex: 1 }}
      contentContainerStyle={{ paddingBottom: 48, maxWidth: 880 }}
      data={rows}
      keyExtractor={keyOf}
      renderItem={({ item }) => <View style={{ paddingHorizontal: 16 }}>{draw(item)}</View>}
      initialNumToRender={12}
      maxToRenderPerBatch={12}
      windowSize={7}
      ListHeaderComponent={
        <View style={{ padding: 16, paddingBottom: 0 }}>
          <PageHead title={title} aside={aside} />
          {head}
        </View>
      }
      ListFooterComponent={foot ? <View style={{ padding: 16 }}>{foot}</View> : null}
    />
  );
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
      <Heading level={1} style={{ flexShrink: 1 }}>
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
  const colour = kind === 'alarm' ? look.alarm : look.sandText;
  return (
    <View
      role={kind === 'alarm' ? 'alert' : 'status'}
      style={{ borderLeftWidth: 4, borderLeftColor: colour, paddingLeft: 12, paddingVertical: 4, marginBottom: 16 }}
    >
      <Body bold style={{ color: colour }}>
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
      <ActivityIndicator color={look.tide} />
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
