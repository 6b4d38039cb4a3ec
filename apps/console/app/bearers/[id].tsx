import { useLocalSearchParams } from 'expo-router';
import { BearerPlace } from '../../src/places/bearers/bearer-place';

export { ErrorBoundary } from '../../src/places/boundary';

export default function Link() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <BearerPlace key={id} id={id} />;
}
