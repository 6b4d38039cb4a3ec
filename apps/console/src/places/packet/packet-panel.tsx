import type { PacketDetail } from '@tombolo/contract';
import { summaryInUnit } from '@tombolo/core';
import { useDistanceUnit } from '../../live/preferences';
import { useBearers, usePacket } from '../../live/queries';
import { Instant } from '../../ui/clock';
import { Row, Stack } from '../../ui/layout';
import { Page, Trouble, Waiting } from '../../ui/page';
import { TakeAlong } from '../../ui/take-along';
import { TermHelp } from '../../ui/terms';
import { megahertzInWords } from '../../ui/quantity';
import { Body, Heading, Mono } from '../../ui/text';
import { PathStatements } from './path-statements';

/** Rows of sixteen octets: offset, hexadecimal, printable characters. */
export function octetRows(hex: string): { offset: string; hex: string; text: string }[] {
  const rows = [];
  for (let at = 0; at < hex.length; at += 16) {
    const octets = hex.slice(at, at + 16).match(/../g) ?? [];
    rows.push({
      offset: (at / 2).toString(16).padStart(3, '0'),
      hex: octets.join(' '),
      text: octets
        .map((octet) => {
          const code = parseInt(octet, 16);
          return code >= 0x20 && code < 0x7f ? String.fromCharCode(code) : '·';
        })
        .join(''),
    });
  }
  return rows;
}

/** How well a copy was received, as far as its bearer tells. */
export const signalWords = ({
  frequencyHz,
  snrDb,
  rssiDbm,
}: Pick<PacketDetail['copies'][number], 'frequencyHz' | 'snrDb' | 'rssiDbm'>): string[] => [
  ...(frequencyHz === null ? [] : [megahertzInWords(frequencyHz)]),
  ...(snrDb === null ? [] : [`SNR ${snrDb.toFixed(1)} dB`]),
  ...(rssiDbm === null ? [] : [`${Math.round(rssiDbm)} dBm`]),
];

/** A packet down to its octets, each field in plain words. */
export function PacketPanel({ id }: { id: string }) {
  const packet = usePacket(id);
  if (packet.isPending)
    return (
      <Page title="Packet">
        <Waiting what="the packet" />
      </Page>
    );
  if (packet.isLoadingError)
    return (
      <Page title="Packet">
        <Trouble error={packet.error} retry={() => void packet.refetch()} />
      </Page>
    );
  return <PacketView packet={packet.data} />;
}

export function PacketView({ packet }: { packet: PacketDetail }) {
  const bearers = useBearers();
  const unit = useDistanceUnit();
  const nameOf = (id: string | null) =>
    bearers.data?.find((bearer) => bearer.id === id)?.name ?? (id === null ? 'recording' : id);
  return (
    <Page title="Packet">
      <Row gap={12} wrap below={4}>
        <Mono bold>{packet.sourceName ?? packet.source}</Mono>
        {packet.sourceName ? <Mono soft>{packet.source}</Mono> : null}
        <Body soft>{packet.kind}</Body>
        <Instant iso={packet.at} seconds />
      </Row>
      <Body below={16}>{summaryInUnit(packet.summary, packet.kind, unit)}</Body>

      <Heading level={2}>{packet.copies.length === 1 ? 'Heard once' : `Heard ${packet.copies.length} times`}</Heading>
      {packet.copies.map((copy) => (
        <Stack key={copy.id} padY={8} ruled>
          <Row justify="between" gap={8}>
            <Body bold shrink={1}>
              {copy.words}
            </Body>
            <Instant iso={copy.at} seconds />
          </Row>
          <Body soft>{[nameOf(copy.bearerId), ...signalWords(copy)].join(' · ')}</Body>
          <Mono soft size={14} line={20}>
            {copy.line}
          </Mono>
          <PathStatements statements={copy.statements} label={`What the path says: ${copy.words}`} />
        </Stack>
      ))}
      <TakeAlong
        text={packet.copies.map(({ line }) => `${line}\n`).join('')}
        about="the packet as it was heard"
        print
      />
      <TermHelp term="copies" />

      <Heading level={2} above={8}>
        Field by field
      </Heading>
      {packet.fields.map((field, i) => (
        <Row key={i} gap={12} padY={6} ruled>
          <Mono soft width={64} size={14} aria-label={`octets ${field.from} to ${field.to - 1}`}>
            {field.to > field.from ? `${field.from}–${field.to - 1}` : '–'}
          </Mono>
          <Stack fill>
            <Body bold>{field.name}</Body>
            <Body>{field.words}</Body>
          </Stack>
        </Row>
      ))}

      <Heading level={2} above={16}>
        As received
      </Heading>
      <Stack above={4}>
        {octetRows(packet.rawHex).map((row) => (
          <Row key={row.offset} gap={10}>
            <Mono soft size={13} line={19}>
              {row.offset}
            </Mono>
            <Mono size={13} line={19} minWidth={186}>
              {row.hex}
            </Mono>
            <Mono soft size={13} line={19}>
              {row.text}
            </Mono>
          </Row>
        ))}
      </Stack>
    </Page>
  );
}
