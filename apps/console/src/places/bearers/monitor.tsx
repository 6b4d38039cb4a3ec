import { View } from 'react-native';
import { usePackets } from '../../live/queries';
import { Empty, Trouble, Waiting } from '../../ui/page';
import { PacketRow } from '../packet/packet-row';

/** The newest packets, one row each with their copies counted. */
export function Monitor({ openPacket }: { openPacket: (id: string) => void }) {
  const packets = usePackets({});
  if (packets.isPending) return <Waiting what="what was heard" />;
  if (packets.isLoadingError) return <Trouble error={packets.error} retry={() => void packets.refetch()} />;
  const rows = packets.data.pages[0]?.rows.slice(0, 25) ?? [];
  if (rows.length === 0)
    return (
      <Empty icon="ear-hearing" title="Nothing heard yet">
        Packets appear here as they are heard. On a quiet channel the first one may take several minutes; fixed stations
        announce about every 30 minutes.
      </Empty>
    );
  return (
    <View role="list" aria-label="Packets heard">
      {rows.map((packet) => (
        <View key={packet.id} role="listitem">
          <PacketRow packet={packet} onPress={() => openPacket(packet.id)} />
        </View>
      ))}
    </View>
  );
}
