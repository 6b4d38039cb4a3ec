import type { PacketSummary } from '@tombolo/contract';
import { counted, summaryInUnit } from '@tombolo/core';
import { View } from 'react-native';
import { useDistanceUnit, useTimeWords } from '../../live/preferences';
import { useTimed } from '../../ui/clock';
import { Link } from '../../ui/link';
import { useLook } from '../../ui/look';
import { Body, Mono } from '../../ui/text';

/** `heard direct`, or with copies `heard direct and 2 more copies`. */
export function copiesWords({ copies }: PacketSummary): string {
  const [first] = copies;
  if (!first) return '';
  if (copies.length === 1) return first.words;
  const more = copies.length - 1;
  return `${first.words}, and ${counted(more, 'more copy', 'more copies')}`;
}

/** One packet with its copies counted, not repeated. */
export function PacketRow({ packet, onPress }: { packet: PacketSummary; onPress?: () => void }) {
  const look = useLook();
  const unit = useDistanceUnit();
  const timeWords = useTimeWords();
  const time = useTimed((now) => timeWords(packet.at, now));
  return (
    <Link
      href={`/packet/${packet.id}`}
      go={onPress}
      style={{ paddingVertical: 8, borderBottomWidth: 1, borderBottomColor: look.rule, minHeight: 56 }}
    >
      <View style={{ flexDirection: 'row', gap: 10, alignItems: 'baseline' }}>
        <Mono bold numberOfLines={1} shrink={1}>
          {packet.sourceName ?? packet.source}
        </Mono>
        <Body soft fill numberOfLines={1}>
          {packet.kind}
        </Body>
        <Mono soft size={14}>
          {time}
        </Mono>
      </View>
      <Body numberOfLines={2}>{summaryInUnit(packet.summary, packet.kind, unit)}</Body>
      <Body soft size={15} line={20}>
        {copiesWords(packet)}
      </Body>
    </Link>
  );
}
