import { router } from 'expo-router';
import { View } from 'react-native';
import { useBearers, useTransmissions } from '../../../live/queries';
import { Trouble, Waiting } from '../../../ui/page';
import { Body, Heading } from '../../../ui/text';
import { TransmissionRow } from '../../log/transmission-row';

/** Positions that were sent lately: each with who repeated it. */
export function SentPositions() {
  const list = useTransmissions();
  const bearers = useBearers();
  const rows = list.data?.pages.flatMap((page) => page.rows).filter(({ role }) => role === 'convey') ?? [];
  return (
    <View>
      <Heading level={2}>Sent lately</Heading>
      {list.isPending ? <Waiting what="what was sent" /> : null}
      {list.isError ? <Trouble error={list.error} retry={() => void list.refetch()} /> : null}
      {list.data && rows.length === 0 ? (
        <Body soft>
          Nothing yet. Who repeats a position, and whether the internet has it, is entered here as it is heard.
        </Body>
      ) : null}
      {rows.length > 0 ? (
        <View role="list" aria-label="Positions sent">
          {rows.map((row) => (
            <TransmissionRow
              key={row.id}
              row={row}
              bearers={bearers.data ?? []}
              openPacket={(id) => router.navigate(`/packet/${id}`)}
            />
          ))}
        </View>
      ) : null}
    </View>
  );
}
