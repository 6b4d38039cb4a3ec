import type { ItemDetail } from '@tombolo/contract';
import { evidenceWords } from './evidence-list';

const instant = (iso: string): string => `${iso.slice(0, 10)} ${iso.slice(11, 19)}Z`;

/** An item with what became of it and what proves that, as plain text: to paste elsewhere, whole dates in UTC. */
export function itemAsText(item: ItemDetail): string {
  const arrived = item.direction === 'in';
  const came = new Set(
    item.legs.filter(({ triesMade, nextAt }) => triesMade === 0 && nextAt === null).map(({ id }) => id),
  );
  const isArrival = (legId: string | null) => arrived && (legId === null || came.has(legId));
  const lines = [
    `From: ${item.sender}`,
    `To: ${[item.addressee, ...item.cc].join(', ')}`,
    `Date: ${instant(item.createdAt)}`,
    `Precedence: ${item.precedence}`,
    ...(item.number ? [`Number: ${item.number}`] : []),
    ...(item.subject ? [`Subject: ${item.subject}`] : []),
    '',
    item.body,
    '',
    `State: ${item.status.words}`,
    ...item.evidence.map(
      (record) =>
        `${instant(record.at)} ${evidenceWords(record, isArrival(record.legId))}${record.note ? ` (${record.note})` : ''}`,
    ),
  ];
  return `${lines.join('\n')}\n`;
}
