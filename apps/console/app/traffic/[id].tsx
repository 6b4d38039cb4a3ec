import { router, useLocalSearchParams } from 'expo-router';
import { Columns } from '../../src/places/columns';
import { PacketPanel } from '../../src/places/packet/packet-panel';
import { ItemPanel } from '../../src/places/traffic/item-panel';
import { TrafficList } from '../../src/places/traffic/traffic-list';
import { useThirdColumn, useWide } from '../../src/ui/look';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Item() {
  const { id, packet } = useLocalSearchParams<{ id: string; packet?: string }>();
  const wide = useWide();
  const third = useThirdColumn();
  const openPacket = (packetId: string) =>
    third ? router.setParams({ packet: packetId }) : router.navigate(`/packet/${packetId}`);
  const panel = <ItemPanel key={id} id={id} openPacket={openPacket} />;
  if (!wide) return panel;
  return (
    <Columns
      list={<TrafficList selectedId={id} />}
      detail={panel}
      third={third && packet ? <PacketPanel key={packet} id={packet} /> : undefined}
    />
  );
}
