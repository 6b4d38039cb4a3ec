import { useLocalSearchParams, useNavigation } from 'expo-router';
import { WritePlace } from '../src/places/write/write-place';

export { ErrorBoundary } from '../src/places/boundary';

export default function Write() {
  const { draft } = useLocalSearchParams<{ draft?: string }>();
  // Of the route itself: the router of the whole is not ready when the page is drawn first.
  const navigation = useNavigation();
  return <WritePlace wanted={draft} shown={(id) => navigation.setParams({ draft: id } as never)} />;
}
