import { router, useLocalSearchParams } from 'expo-router';
import { WritePlace } from '../src/places/write/write-place';

export default function Write() {
  const { draft } = useLocalSearchParams<{ draft?: string }>();
  return <WritePlace wanted={draft} shown={(id) => router.setParams({ draft: id })} />;
}
