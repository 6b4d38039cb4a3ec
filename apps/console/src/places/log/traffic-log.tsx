import { useDeferredValue, type ReactNode } from 'react';
import { View } from 'react-native';
import { useAddressed } from '../../live/addressed';
import { useItems } from '../../live/queries';
import { exportUrl } from '../../live/exports';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Row, Stack } from '../../ui/layout';
import { Empty, LongPage, Trouble, Waiting } from '../../ui/page';
import { ShowOlder } from '../../ui/show-older';
import { ItemRow } from '../traffic/item-row';
import { saveFile } from './save';

const USUAL = { text: '' };

/** All items with their status, newest first, and the communications log to hand in. */
export function TrafficLog({ head }: { head: ReactNode }) {
  const [{ text: search }, change] = useAddressed(USUAL);
  const items = useItems(useDeferredValue(search));
  const rows = items.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <LongPage
      title="Log"
      rows={rows}
      of={search}
      keyOf={(item) => item.id}
      draw={(item) => (
        <Stack out={16}>
          <ItemRow item={item} selected={false} />
        </Stack>
      )}
      foot={<ShowOlder list={items} />}
      head={
        <View>
          {head}
          <Field
            label="Search"
            value={search}
            onChangeText={(text) => change({ text })}
            hint="Call sign or words of the text"
          />
          <Row wrap gap={8} below={8}>
            <Button
              title="Save the communications log (CSV)"
              icon="download-outline"
              kind="plain"
              onPress={() => saveFile(exportUrl('log.csv'))}
            />
            <Button
              title="Save all mail (mbox)"
              icon="download-outline"
              kind="plain"
              onPress={() => saveFile(exportUrl('mail.mbox'))}
            />
          </Row>
          {items.isPending ? <Waiting what="the log" /> : null}
          {items.isError ? <Trouble error={items.error} retry={() => void items.refetch()} /> : null}
          {items.data && rows.length === 0 ? (
            <Empty icon="book-open-outline" title={search ? 'Nothing matches' : 'The log is empty'}>
              {search
                ? 'Try part of a call sign or another word.'
                : 'Every text that is sent or arrives is entered here by itself, in UTC, with its proof.'}
            </Empty>
          ) : null}
        </View>
      }
    />
  );
}
