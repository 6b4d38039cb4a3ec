import { Button } from '../../../ui/button';
import { Row } from '../../../ui/layout';
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
    <Row role="group" aria-label={`${label}: offered`} wrap gap={8} above={-8} below={16}>
      {offers.map(({ words, value }) => (
        <Button key={words} title={words} kind="plain" onPress={() => choose(value)} />
      ))}
    </Row>
  );
}
