import type { ItemDetail } from '@tombolo/contract';
import { counted, writeAskedAgain } from '@tombolo/core';
import { Button } from '../../ui/button';
import { Row, Stack } from '../../ui/layout';
import { Link } from '../../ui/link';
import { Body, Heading } from '../../ui/text';

/** The longer text that an item is a part of: what is there, the other parts, and what can be asked for. */
export function Parts({ item, answer }: { item: ItemDetail; answer: (text: string) => void }) {
  const { parts, direction } = item;
  if (!parts) return null;
  const { set, of, n, text, missing, items } = parts;
  const arrived = direction === 'in';
  const numbers = missing.join(', ');
  return (
    <Stack below={16}>
      <Heading level={2}>
        {missing.length === 0 ? 'The whole text' : `${of - missing.length} of ${counted(of, 'part')}`}
      </Heading>
      <Body selectable size={20} line={28}>
        {text}
      </Body>
      <Row role="group" aria-label="Other parts" wrap gap={12}>
        {items
          .filter((one) => one.n !== n)
          .map((one) => (
            <Link key={one.n} href={`/traffic/${one.id}`} minHeight={48} justify="center">
              <Body tone="tide">{`Part ${one.n} of ${of}`}</Body>
            </Link>
          ))}
      </Row>
      {missing.length > 0 ? (
        <Stack align="start" gap={4}>
          <Body soft>
            {arrived
              ? `Part ${numbers} did not come. Whoever knows the form sends it again when it is asked for.`
              : `Part ${numbers} is not on record here.`}
          </Body>
          {arrived ? (
            <Button
              title={`Ask for part ${numbers} again`}
              kind="plain"
              onPress={() => answer(writeAskedAgain({ set, of, wanted: missing }))}
            />
          ) : null}
        </Stack>
      ) : null}
    </Stack>
  );
}
