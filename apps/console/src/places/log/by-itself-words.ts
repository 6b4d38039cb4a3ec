import type { TransmissionView } from '@tombolo/contract';

/** How a transmission that belongs to no item stands: what its evidence says, and no more. */
export function transmissionWords({ evidence, held, nextAt }: TransmissionView): string {
  const has = (kind: string) => evidence.some((record) => record.kind === kind);
  const noteOf = (kind: string) => evidence.findLast((record) => record.kind === kind)?.note;
  if (has('sent')) {
    const repeats = evidence.filter(({ kind }) => kind === 'relayed');
    const by = [...new Set(repeats.map((record) => record.by ?? 'somebody who did not sign'))];
    return by.length === 0 ? 'Sent; not heard repeated' : `Sent; heard repeated by ${by.join(', ')}`;
  }
  if (has('left out')) return 'Left out: it could not go out in time';
  if (has('refused')) return `Not sent: ${noteOf('refused') ?? 'it cannot go out as it is'}`;
  if (has('expired')) return `Not sent: ${noteOf('expired') ?? 'the equipment did not take it'}`;
  if (held !== null) return `Held: ${held}`;
  if (has('interrupted') && nextAt === null) return 'It may or may not have gone out';
  return nextAt === null ? 'Not sent' : 'Waits for its turn';
}
