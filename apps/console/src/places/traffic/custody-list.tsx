import type { BearerView, CustodyRecord } from '@tombolo/contract';
import { View } from 'react-native';
import { Instant } from '../../ui/clock';
import { useLook } from '../../ui/look';
import { Body, Heading } from '../../ui/text';

/** Who held the item when: received from, passed to. */
export function CustodyList({
  custody,
  bearers,
}: {
  custody: readonly CustodyRecord[];
  bearers: readonly BearerView[];
}) {
  const look = useLook();
  if (custody.length === 0) return null;
  return (
    <View style={{ marginTop: 20 }}>
      <Heading level={2}>Who held it</Heading>
      <View role="list" aria-label="Custody">
        {custody.map((record) => (
          <View
            key={record.id}
            role="listitem"
            style={{ paddingVertical: 8, borderBottomWidth: 1, borderBottomColor: look.rule }}
          >
            <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
              <Body bold style={{ flexShrink: 1 }}>
                {record.what === 'received' ? `Received from ${record.other}` : `Passed to ${record.other}`}
              </Body>
              <Instant iso={record.at} seconds />
            </View>
            <Body soft>
              {[`by ${record.by}`, bearers.find(({ id }) => id === record.bearer)?.name ?? record.bearer, record.note]
                .filter(Boolean)
                .join(' · ')}
            </Body>
          </View>
        ))}
      </View>
    </View>
  );
}
