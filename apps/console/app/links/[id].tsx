import { useLocalSearchParams } from 'expo-router';
import { LinkPlace } from '../../src/places/links/link-place';

export default function Link() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <LinkPlace key={id} id={id} />;
}
