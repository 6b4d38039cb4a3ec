import { useLocalSearchParams } from 'expo-router';
import { PacketPanel } from '../../src/places/packet/packet-panel';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Packet() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <PacketPanel key={id} id={id} />;
}
