import { View } from 'react-native';
import { Button } from '../../../ui/button';
import type { Offer } from './known';

/** What could stand in a field, one press each. */
export function FieldOffers({
  label,
  offers,
  choose,
}: {
  label: string;
  offers: readonly Offer[];
  choose: (value: string) => void;
}) {
  if (offers.length === 0) return null;
  return (
    <View
      role="group"
      aria-label={`${label}: offered`}
      style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8, marginTop: -8, marginBottom: 16 }}
    >
      {offers.map(({ words, value }) => (
        <Button key={words} title={words} kind="plain" onPress={() => choose(value)} />
      ))}
    </View>
  );
}
