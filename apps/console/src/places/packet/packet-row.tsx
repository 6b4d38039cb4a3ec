import type { PacketSummary } from '@tombolo/contract';
import { counted, summaryInUnit } from '@tombolo/core';
import { useDistanceUnit, useTimeWords } from '../../live/preferences';
import { useTimed } from '../../ui/clock';
import { Link } from '../../ui/link';
import { Body, Mono } from '../../ui/text';
import { Row } from '../../ui/layout';

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
  const unit = useDistanceUnit();
  const timeWords = useTimeWords();
  const time = useTimed((now) => timeWords(packet.at, now));
  return (
    <Link href={`/packet/${packet.id}`} go={onPress} padY={8} ruled minHeight={56}>
      <Row gap={10} align="baseline">
        <Mono bold numberOfLines={1} shrink={1}>
          {packet.sourceName ?? packet.source}
        </Mono>
        <Body soft fill numberOfLines={1}>
          {packet.kind}
        </Body>
        <Mono soft size={14}>
          {time}
        </Mono>
      </Row>
      <Body numberOfLines={2}>{summaryInUnit(packet.summary, packet.kind, unit)}</Body>
      <Body soft size={15} line={20}>
        {copiesWords(packet)}
      </Body>
    </Link>
  );
}
