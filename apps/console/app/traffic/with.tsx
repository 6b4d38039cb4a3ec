import { useLocalSearchParams } from 'expo-router';
import { Columns } from '../../src/places/columns';
import { ConversationPlace } from '../../src/places/traffic/conversation/conversation-place';
import { TrafficList } from '../../src/places/traffic/traffic-list';
import { useWide } from '../../src/ui/look';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Conversation() {
  const { who = '' } = useLocalSearchParams<{ who?: string }>();
  const wide = useWide();
  const place = <ConversationPlace key={who} who={who} />;
  return wide ? <Columns list={<TrafficList selectedId={null} />} detail={place} /> : place;
}
