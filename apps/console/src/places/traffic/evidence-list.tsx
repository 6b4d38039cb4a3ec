import type { BearerView, EvidenceRecord } from '@tombolo/contract';
import { type EvidenceKind, type Strip } from '@tombolo/core';
import { View } from 'react-native';
import { Instant } from '../../ui/clock';
import { StripMark } from '../../ui/causeway';
import { Row, Stack } from '../../ui/layout';
import { Body, Mono } from '../../ui/text';
import { Link } from '../../ui/link';

type MarksOf = Partial<Record<EvidenceKind, Strip['state']>>;

/** How far each record carries the item, in the marks of the causeway. What we answered ourselves was sent, and no more is proven by it. */
const MARKS: MarksOf = {
  sent: 'sent',
  relayed: 'heard',
  'heard again': 'heard',
  accepted: 'accepted',
  'handed on': 'accepted',
  delivered: 'acknowledged',
  answered: 'acknowledged',
  acknowledged: 'sent',
  rejected: 'sent',
  refused: 'broken',
  expired: 'broken',
  overdue: 'broken',
  cancelled: 'broken',
  'not taken': 'broken',
  'left out': 'broken',
};

/** Of an item that came: it is here, and the answer is ours. */
const OF_ARRIVED: MarksOf = { delivered: 'accepted', answered: 'sent' };

/** The mark of a record; what proves no more than a wish is dotted. */
export const markOf = ({ kind }: Pick<EvidenceRecord, 'kind'>, arrived: boolean): Strip['state'] =>
  (arrived ? OF_ARRIVED[kind] : undefined) ?? MARKS[kind] ?? 'planned';

/** What a record says, in words. */
export function evidenceWords(record: EvidenceRecord, arrived: boolean): string {
  const by = record.by ?? 'somebody';
  switch (record.kind) {
    case 'queued':
      return 'Put in the queue';
    case 'intended':
      return `Try ${record.attempt}: about to be handed to the modem`;
    case 'sent':
      return `Try ${record.attempt}: sent`;
    case 'relayed':
      if (arrived) return `It came over ${record.via.join(', ')}`;
      if (record.road?.how === 'internet') return `The gateway ${by} says that it had it, and put it on the internet`;
      if (record.road?.how === 'mesh') return 'Heard repeated by a node of the mesh';
      return record.by === null ? 'Heard repeated by a digipeater that did not sign' : `Heard repeated by ${by}`;
    case 'delivered':
      return arrived ? `Arrived from ${by}` : `${by} acknowledged`;
    case 'answered':
      return arrived ? 'We answered' : `${by} answered`;
    case 'refused':
      return `${by} refused it`;
    case 'expired':
      return 'Tries used up';
    case 'overdue':
      return 'Its deadline passed';
    case 'cancelled':
      return 'Cancelled';
    case 'interrupted':
      return `Try ${record.attempt}: interrupted`;
    case 'not taken':
      return `Try ${record.attempt}: the modem did not take it`;
    case 'waits':
      return 'Waits for air time';
    case 'left out':
      return 'It was not sent';
    case 'acknowledged':
      return 'We acknowledged it';
    case 'rejected':
      return 'We refused it';
    case 'heard again':
      return 'Heard again';
    case 'asked again':
      return arrived ? 'We asked for what is missing' : `${by} asks for this part again`;
    case 'accepted':
      return `${by} took it`;
    case 'handed on':
      return `${by} handed it on`;
    default:
      return `${record.kind} – ${by}`;
  }
}

interface EvidenceListProps {
  evidence: readonly EvidenceRecord[];
  arrived: boolean;
  /** Legs that brought the item here; the others of an arrived item hand it on. */
  arrivedLegs?: readonly string[];
  bearers: readonly BearerView[];
  openPacket: (id: string) => void;
}

/** All evidence in the order of what happened; a record with a packet opens it. */
export function EvidenceList({ evidence, arrived, arrivedLegs = [], bearers, openPacket }: EvidenceListProps) {
  const isArrival = (record: EvidenceRecord) =>
    arrived && (record.legId === null || arrivedLegs.includes(record.legId));
  const wordsOf = (record: EvidenceRecord) => evidenceWords(record, isArrival(record));
  // Intents that were followed by a record of their try say nothing more.
  const closed = new Set(
    evidence
      .filter((r) => ['sent', 'interrupted', 'not taken', 'acknowledged', 'rejected'].includes(r.kind))
      .map((r) => `${r.legId}/${r.attempt}`),
  );
  const shown = evidence.filter((r) => r.kind !== 'intended' || !closed.has(`${r.legId}/${r.attempt}`));
  return (
    <View role="list" aria-label="Evidence">
      {shown.map((record) => {
        const bearer = bearers.find((candidate) => candidate.id === record.bearer)?.name ?? record.bearer;
        const { packetId } = record;
        return (
          <Row key={record.id} role="listitem" gap={12} padY={10} ruled>
            <StripMark state={markOf(record, isArrival(record))} />
            <Stack fill gap={2}>
              <Row justify="between" gap={8}>
                <Body bold shrink={1}>
                  {wordsOf(record)}
                </Body>
                <Instant iso={record.at} seconds />
              </Row>
              <Body soft>{[bearer, record.note].filter(Boolean).join(' · ')}</Body>
              {record.raw ? (
                <Mono soft size={14} line={20}>
                  {record.raw}
                </Mono>
              ) : null}
              {packetId !== null ? (
                <Link
                  href={`/packet/${packetId}`}
                  label={`Open the packet: ${wordsOf(record)}`}
                  go={() => openPacket(packetId)}
                  minHeight={48}
                  justify="center"
                  self="start"
                >
                  <Body bold tone="tide">
                    Open the packet
                  </Body>
                </Link>
              ) : null}
            </Stack>
          </Row>
        );
      })}
    </View>
  );
}
