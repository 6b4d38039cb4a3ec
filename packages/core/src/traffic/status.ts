import { hopsOfRecord, inOrder, isRung, RUNGS, rungIndex, type Evidence, type Rung } from './evidence';

/** How it stands beside the ladder; null while it goes on, or when it arrived. */
export const OUTCOMES = ['refused', 'expired', 'cancelled', 'unknown'] as const;
export type Outcome = (typeof OUTCOMES)[number];

export interface Status {
  readonly rung: Rung;
  readonly outcome: Outcome | null;
  /** The first evidence of the rung; null only when there is no evidence at all. */
  readonly proof: Evidence | null;
  /** What the evidence says, and no more. */
  readonly words: string;
  /** What would prove the next rung; null when nothing more can come. */
  readonly wouldProve: string | null;
  /** Until when it makes sense to wait for that; null when there is nothing to wait for. */
  readonly waitUntil: string | null;
}

/** What the item is, as far as the words depend on it. */
export interface StatusContext {
  readonly addressee: string;
  readonly acknowledgementAsked: boolean;
  /** Arrived items are read from our own side: `delivered` is their arrival here. */
  readonly arrived?: boolean;
  /** It arrived, and there was no room for it. */
  readonly refused?: boolean;
}

/**
 * Status from evidence. Pure: the order and the number of copies in which evidence arrives do not matter.
 * `now` (ISO 8601) only tells whether a wait is over.
 */
export function statusOf(evidence: readonly Evidence[], context: StatusContext, now: string): Status {
  const records = inOrder(evidence);
  let rung: Rung = 'drafted';
  let proof: Evidence | null = records[0] ?? null;
  for (const record of records) {
    if (isRung(record.kind) && rungIndex(record.kind) > rungIndex(rung)) {
      rung = record.kind;
      proof = record;
    }
  }
  const outcome = outcomeOf(records, rung, context, now);
  const waitUntil = outcome === null && rungIndex(rung) < rungIndex('delivered') ? latestExpectation(records) : null;
  return {
    rung,
    outcome,
    proof,
    words: context.arrived
      ? arrivalWords(records, context.refused ?? false)
      : words(rung, outcome, proof, context, records),
    wouldProve: outcome === 'cancelled' || context.arrived ? null : wouldProve(rung, context),
    waitUntil,
  };
}

function outcomeOf(records: readonly Evidence[], rung: Rung, context: StatusContext, now: string): Outcome | null {
  if (rungIndex(rung) >= rungIndex('delivered')) return null;
  if (records.some((record) => record.kind === 'cancelled')) return 'cancelled';
  // A retry queues a new leg; what ended the earlier ones is history.
  const lastQueued = records.filter((record) => record.kind === 'queued').at(-1);
  const current = records.filter((record) => !lastQueued || record.legId === lastQueued.legId);
  if (current.some((record) => record.kind === 'refused')) return 'refused';
  if (current.some(({ kind }) => kind === 'expired' || kind === 'overdue')) return 'expired';
  const sent = current.some((record) => record.kind === 'sent');
  const interrupted = current.some((record) => record.kind === 'interrupted');
  if (context.acknowledgementAsked || rungIndex(rung) >= rungIndex('relayed')) return null;
  if (interrupted && !sent) return 'unknown';
  const expectation = latestExpectation(current);
  if (sent && rung === 'sent' && expectation !== null && now > expectation) return 'unknown';
  return null;
}

function latestExpectation(records: readonly Evidence[]): string | null {
  let latest: string | null = null;
  for (const { expectBy } of records)
    if (expectBy !== null && (latest === null || expectBy > latest)) latest = expectBy;
  return latest;
}

/** Relays are named once each, in the order in which they were proven. */
export function relaysOf(records: readonly Evidence[]): string[] {
  const relays = new Set<string>();
  for (const record of records) if (record.kind === 'relayed') for (const call of record.via) relays.add(call);
  return [...relays];
}

/** A gateway that heard it did not repeat it. */
function relayWords(relays: readonly string[], records: readonly Evidence[], proof: Evidence | null): string {
  if (relays.length > 0) return `relayed by ${relays.join(', ')}`;
  const repeats = records.filter((record) => record.kind === 'relayed');
  const unnamed = repeats.some((record) => hopsOfRecord(record).some(({ call, certain }) => call === null && certain));
  if (repeats.some((record) => record.road?.how === 'mesh')) return 'relayed by a node of the mesh';
  if (unnamed) return 'relayed by a digipeater that did not sign';
  const gate = repeats.find((record) => record.road?.how === 'internet')?.road?.gate;
  if (gate) return `the gateway ${gate} says that it had it`;
  return proof?.by ? `relayed by ${proof.by}` : 'relayed';
}

function words(
  rung: Rung,
  outcome: Outcome | null,
  proof: Evidence | null,
  context: StatusContext,
  records: readonly Evidence[],
): string {
  const relays = relaysOf(records);
  const relayedBy = relayWords(relays, records, proof);
  // Of the tries that are still open: what a retry left behind is history.
  const lastQueued = records.filter((record) => record.kind === 'queued').at(-1);
  const interrupted = records.some(
    (record) => record.kind === 'interrupted' && (!lastQueued || record.legId === lastQueued.legId),
  );
  const base: Record<Rung, string> = {
    drafted: 'draft',
    queued: interrupted ? 'it may already have been taken; it is tried again' : 'waiting to be sent',
    sent: 'sent, nothing heard yet',
    relayed: context.acknowledgementAsked && outcome === null ? `${relayedBy}; not acknowledged yet` : relayedBy,
    accepted: `accepted by ${proof?.by ?? 'the gateway'}`,
    'handed on': `handed on by ${proof?.by ?? 'the gateway'}`,
    delivered: proof?.by ? `delivered: acknowledged in the name of ${proof.by}` : 'delivered',
    answered: `answered by ${proof?.by ?? context.addressee}`,
  };
  switch (outcome) {
    case null:
      return base[rung];
    case 'cancelled':
      return rung === 'queued' || rung === 'drafted' ? 'cancelled before it was sent' : `${base[rung]}; then cancelled`;
    case 'refused': {
      const refusal = records.filter((record) => record.kind === 'refused').at(-1);
      return `refused by ${refusal?.by ?? context.addressee}${refusal?.note ? `: ${refusal.note}` : ''}`;
    }
    case 'expired': {
      const overdue = records.filter(({ kind }) => kind === 'expired' || kind === 'overdue').at(-1)?.kind === 'overdue';
      const why = overdue ? 'its deadline passed' : 'tries used up';
      if (rung === 'queued')
        return interrupted
          ? `it may or may not have been sent; ${why}`
          : `not sent: ${overdue ? why : 'the tries are used up'}`;
      return rung === 'sent' ? `sent, nothing heard; ${why}` : `${base[rung]}, not acknowledged; ${why}`;
    }
    case 'unknown':
      return rung === 'queued' ? 'cut off: it may already have been sent or taken' : 'sent, no evidence since';
  }
}

function arrivalWords(records: readonly Evidence[], refused: boolean): string {
  const has = (kind: Evidence['kind']) => records.some((record) => record.kind === kind);
  if (refused)
    return has('rejected') ? 'not taken: there was no room; the sender was told' : 'not taken: there was no room';
  const answer = has('acknowledged')
    ? ', acknowledged'
    : has('left out')
      ? ', not acknowledged: it could not go out in time'
      : '';
  return has('answered') ? `arrived${answer}, answered` : `arrived${answer}`;
}

function wouldProve(rung: Rung, { addressee, acknowledgementAsked }: StatusContext): string | null {
  const next = RUNGS[rungIndex(rung) + 1];
  if (next === undefined) return null;
  const acknowledgement = `an acknowledgement from ${addressee}`;
  switch (rung) {
    case 'drafted':
      return 'putting it in the queue';
    case 'queued':
      return 'the equipment taking it';
    case 'sent':
      return acknowledgementAsked
        ? `our own packet heard repeated, or ${acknowledgement}`
        : 'our own packet heard repeated';
    case 'relayed':
      return acknowledgementAsked ? acknowledgement : `a reply from ${addressee}; no acknowledgement was asked for`;
    case 'accepted':
      return 'word from the next system, or a delivery report';
    case 'handed on':
      return 'a delivery report, or a reply';
    default:
      return `a reply from ${addressee} that refers to it`;
  }
}

/** The four heaps of Traffic. */
export type Heap = 'needs you' | 'on its way' | 'arrived' | 'filed';

export interface HeapContext {
  readonly direction: 'out' | 'in';
  readonly filed: boolean;
  /** Bulletins are for everybody and wait for no answer. */
  readonly wantsAnswer: boolean;
}

/** Where an item lies, from its status: what needs somebody comes first. */
export function heapOf(status: Status, item: HeapContext): Heap {
  if (item.filed) return 'filed';
  if (item.direction === 'in') return item.wantsAnswer && status.rung !== 'answered' ? 'needs you' : 'arrived';
  if (status.outcome === 'cancelled') return 'filed';
  if (status.outcome !== null || status.rung === 'drafted') return 'needs you';
  return rungIndex(status.rung) >= rungIndex('delivered') ? 'arrived' : 'on its way';
}

/** What somebody should do about an item that needs them; null when it needs nobody. */
export function neededOf(status: Pick<Status, 'rung'>, heap: Heap, direction: HeapContext['direction']): string | null {
  if (heap !== 'needs you') return null;
  if (direction === 'in') return 'answer or file it';
  return status.rung === 'drafted' ? 'finish it' : 'try again or file it';
}
