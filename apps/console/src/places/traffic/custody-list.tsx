import type { BearerView, CustodyRecord } from '@tombolo/contract';
import { View } from 'react-native';
import { Instant } from '../../ui/clock';
import { Row, Stack } from '../../ui/layout';
import { Body, Heading } from '../../ui/text';

/** Who held the item when: received from, passed to. */
export function CustodyList({
  custody,
  bearers,
}: {
  custody: readonly CustodyRecord[];
  bearers: readonly BearerView[];
}) {
  if (custody.length === 0) return null;
  return (
    <Stack above={20}>
      <Heading level={2}>Who held it</Heading>
      <View role="list" aria-label="Custody">
        {custody.map((record) => (
          <Stack key={record.id} role="listitem" padY={8} ruled>
            <Row justify="between" gap={8}>
              <Body bold shrink={1}>
                {record.what === 'received' ? `Received from ${record.other}` : `Passed to ${record.other}`}
              </Body>
              <Instant iso={record.at} seconds />
            </Row>
            <Body soft>
              {[`by ${record.by}`, bearers.find(({ id }) => id === record.bearer)?.name ?? record.bearer, record.note]
                .filter(Boolean)
                .join(' · ')}
            </Body>
          </Stack>
        ))}
      </View>
    </Stack>
  );
}
