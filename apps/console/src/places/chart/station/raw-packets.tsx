import type { StationDetail } from '@tombolo/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { usePackets } from '../../../live/queries';
import { Button } from '../../../ui/button';
import { Stack } from '../../../ui/layout';
import { Trouble, Waiting } from '../../../ui/page';
import { ShowOlder } from '../../../ui/show-older';
import { Heading } from '../../../ui/text';
import { isReported } from '../symbols';
import { PacketRow } from '../../packet/packet-row';

const FIRST = 3;

/** All its packets; each opens field by field. */
export function RawPackets({ station }: { station: StationDetail }) {
  const [all, setAll] = useState(false);
  const call = isReported(station) ? (station.owner ?? station.call) : station.call;
  const packets = usePackets({ station: call });
  if (packets.isPending) return <Waiting what="its packets" />;
  if (packets.isLoadingError) return <Trouble error={packets.error} retry={() => void packets.refetch()} />;
  const rows = packets.data.pages.flatMap((page) => page.rows);
  return (
    <Stack above={16}>
      <Heading level={2}>{isReported(station) ? `Packets of ${call}` : 'Packets'}</Heading>
      <View role="list" aria-label="Packets">
        {(all ? rows : rows.slice(0, FIRST)).map((packet) => (
          <View key={packet.id} role="listitem">
            <PacketRow packet={packet} />
          </View>
        ))}
      </View>
      {all ? (
        <ShowOlder list={packets} />
      ) : rows.length > FIRST ? (
        <Button title="Show more packets" kind="plain" onPress={() => setAll(true)} />
      ) : null}
    </Stack>
  );
}
