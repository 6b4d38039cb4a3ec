import fc from 'fast-check';
import { parseMonitorLine } from '../aprs/monitor';
import { explainRoad } from '../aprs/path';
import { octetsOfText } from '../octets';
import { arrivalRoad, bestLeg, causewayInWords, causewayOf } from './causeway';
import { EVIDENCE_KINDS, RUNGS, isRung, rungIndex, type Evidence, type EvidenceKind } from './evidence';
import { decideIncoming, REPEAT_WINDOW_MS } from './incoming';
import { DEFAULT_RETRY, reconnectDelayMs, retryDelayMs } from './retry';
import { heapOf, neededOf, statusOf } from './status';

const context = { addressee: 'QT4LB-8', acknowledgementAsked: true };
const NOW = '2026-01-01T12:00:00.000Z';

let counter = 0;
const record = (kind: EvidenceKind, more: Partial<Evidence> = {}): Evidence => ({
  id: `e${++counter}`,
  kind,
  at: `2026-01-01T10:00:${String(counter % 60).padStart(2, '0')}.000Z`,
  legId: 'leg',
  attempt: 1,
  bearer: 'radio',
  by: null,
  via: [],
  raw: null,
  note: null,
  expectBy: null,
  ...more,
});

const arbitraryEvidence: fc.Arbitrary<Evidence> = fc.record({
  id: fc.string({ minLength: 1, maxLength: 3 }),
  kind: fc.constantFrom(...EVIDENCE_KINDS),
  at: fc.integer({ min: 0, max: 5 }).map((s) => `2026-01-01T10:00:0${s}.000Z`),
  legId: fc.constantFrom('leg', 'other', null),
  attempt: fc.option(fc.integer({ min: 1, max: 5 })),
  bearer: fc.constant('radio'),
  by: fc.option(fc.constantFrom('QT0BR-1', 'QT4LB-8')),
  via: fc.subarray(['QT0BR-1', 'QT0TH-3']),
  raw: fc.constant(null),
  note: fc.option(fc.constant('no')),
  expectBy: fc.option(fc.integer({ min: 0, max: 9 }).map((s) => `2026-01-01T10:0${s}:00.000Z`)),
});
const oneRecordAnId = fc.uniqueArray(arbitraryEvidence, { selector: (e) => e.id, maxLength: 12 });
const leg = { legId: 'leg', from: 'QT2AR-7', to: 'QT4LB-8', path: ['WIDE1-1', 'WIDE2-1'] };

describe('status from evidence', () => {
  it('does not depend on the order in which evidence arrives', () => {
    fc.assert(
      fc.property(
        oneRecordAnId.chain((e) => fc.tuple(fc.constant(e), fc.shuffledSubarray(e, { minLength: e.length }))),
        ([a, b]) => {
          expect(statusOf(b, context, NOW)).toEqual(statusOf(a, context, NOW));
          const status = statusOf(a, context, NOW);
          expect(causewayOf(leg, b, status)).toEqual(causewayOf(leg, a, status));
        },
      ),
    );
  });

  it('does not change by duplicates', () => {
    fc.assert(
      fc.property(oneRecordAnId, (evidence) => {
        expect(statusOf([...evidence, ...evidence], context, NOW)).toEqual(statusOf(evidence, context, NOW));
      }),
    );
  });

  it('never stands on a rung of which there is no evidence, and never below one', () => {
    fc.assert(
      fc.property(oneRecordAnId, (evidence) => {
        const { rung, proof } = statusOf(evidence, context, NOW);
        const highest = Math.max(0, ...evidence.map((e) => (isRung(e.kind) ? rungIndex(e.kind) : 0)));
        expect(RUNGS[highest]).toBe(rung);
        if (highest > 0) expect(proof?.kind).toBe(rung);
      }),
    );
  });

  it('tells the road of a text that arrives, rung by rung, with what would prove the next', () => {
    const evidence = [record('queued')];
    expect(statusOf(evidence, context, NOW)).toMatchObject({ rung: 'queued', words: 'waiting to be sent' });
    evidence.push(record('intended'), record('sent', { expectBy: '2026-01-01T12:00:20.000Z' }));
    expect(statusOf(evidence, context, NOW)).toMatchObject({
      rung: 'sent',
      outcome: null,
      waitUntil: '2026-01-01T12:00:20.000Z',
      wouldProve: 'our own packet heard repeated, or an acknowledgement from QT4LB-8',
    });
    evidence.push(record('relayed', { by: 'QT0BR-1', via: ['QT0BR-1'] }));
    expect(statusOf(evidence, context, NOW)).toMatchObject({
      rung: 'relayed',
      words: 'relayed by QT0BR-1; not acknowledged yet',
    });
    evidence.push(record('delivered', { by: 'QT4LB-8' }));
    expect(statusOf(evidence, context, NOW)).toMatchObject({
      rung: 'delivered',
      words: 'delivered: acknowledged in the name of QT4LB-8',
      waitUntil: null,
      wouldProve: 'a reply from QT4LB-8 that refers to it',
    });
  });

  it('says honestly that a text was relayed but not acknowledged, and starts again with a retry', () => {
    const first = [record('queued'), record('sent'), record('relayed', { via: ['QT0TH-3'] }), record('expired')];
    expect(statusOf(first, context, NOW)).toMatchObject({
      outcome: 'expired',
      words: 'relayed by QT0TH-3, not acknowledged; tries used up',
    });
    const retried = [...first, record('queued', { legId: 'second', at: '2026-01-01T11:00:00.000Z' })];
    expect(statusOf(retried, context, NOW)).toMatchObject({ outcome: null, rung: 'relayed' });
    const late = [...first, record('delivered', { by: 'QT4LB-8' })];
    expect(statusOf(late, context, NOW)).toMatchObject({ outcome: null, rung: 'delivered' });
  });

  it('says that the deadline passed, and not that tries were used up', () => {
    const sent = [record('queued'), record('sent'), record('overdue')];
    expect(statusOf(sent, context, NOW)).toMatchObject({
      outcome: 'expired',
      words: 'sent, nothing heard; its deadline passed',
    });
    expect(statusOf([record('queued'), record('overdue')], context, NOW).words).toBe('not sent: its deadline passed');
    expect(statusOf([...sent, record('delivered', { by: 'QT4LB-8' })], context, NOW).outcome).toBeNull();
  });

  it('calls a text unknown when none was asked to acknowledge and the wait is over', () => {
    const evidence = [record('queued'), record('sent', { expectBy: '2026-01-01T11:00:00.000Z' })];
    const quiet = { ...context, acknowledgementAsked: false };
    expect(statusOf(evidence, quiet, '2026-01-01T10:59:00.000Z').outcome).toBeNull();
    expect(statusOf(evidence, quiet, NOW)).toMatchObject({ outcome: 'unknown', words: 'sent, no evidence since' });
    expect(statusOf([record('queued'), record('interrupted')], quiet, NOW).words).toContain(
      'may already have been sent',
    );
  });

  it('tells an arrived text from our own side', () => {
    const arrived = { ...context, arrived: true };
    expect(statusOf([record('delivered')], arrived, NOW)).toMatchObject({ words: 'arrived', wouldProve: null });
    expect(statusOf([record('delivered'), record('acknowledged'), record('answered')], arrived, NOW).words).toBe(
      'arrived, acknowledged, answered',
    );
    const refused = { ...arrived, refused: true };
    expect(statusOf([record('delivered')], refused, NOW).words).toBe('not taken: there was no room');
    expect(statusOf([record('delivered'), record('rejected')], refused, NOW).words).toContain('the sender was told');
    expect(statusOf([record('delivered'), record('left out')], arrived, NOW).words).toContain('not acknowledged');
  });

  it('puts each item on its heap', () => {
    const out = { direction: 'out' as const, filed: false, wantsAnswer: true };
    const at = (...kinds: EvidenceKind[]) =>
      statusOf(
        kinds.map((kind) => record(kind)),
        context,
        NOW,
      );
    expect(heapOf(at('queued', 'sent'), out)).toBe('on its way');
    expect(neededOf(at('queued', 'sent'), 'on its way', 'out')).toBeNull();
    expect(neededOf(at('queued', 'refused'), 'needs you', 'out')).toBe('try again or file it');
    expect(neededOf(at('delivered'), 'needs you', 'in')).toBe('answer or file it');
    expect(heapOf(at('queued', 'refused'), out)).toBe('needs you');
    expect(heapOf(at('queued', 'delivered'), out)).toBe('arrived');
    expect(heapOf(at('queued', 'cancelled'), out)).toBe('filed');
    expect(heapOf(at('delivered'), { ...out, direction: 'in' })).toBe('needs you');
    expect(heapOf(at('delivered', 'answered'), { ...out, direction: 'in' })).toBe('arrived');
    expect(heapOf(at('delivered'), { ...out, direction: 'in', wantsAnswer: false })).toBe('arrived');
    expect(heapOf(at('queued'), { ...out, filed: true })).toBe('filed');
  });
});

describe('causeway', () => {
  const draw = (...evidence: Evidence[]) => causewayOf(leg, evidence, statusOf(evidence, context, NOW));
  const states = (...evidence: Evidence[]) => draw(...evidence).strips.map((strip) => strip.state);

  it('fills strip by strip, and only with evidence', () => {
    expect(states(record('queued'))).toEqual(['planned', 'planned', 'planned']);
    expect(states(record('sent'))).toEqual(['sent', 'planned', 'planned']);
    const one = record('relayed', { via: ['QT0BR-1'] });
    expect(states(record('sent'), one)).toEqual(['heard', 'sent', 'planned']);
    const two = record('relayed', { via: ['QT0BR-1', 'QT0TH-3'] });
    expect(draw(record('sent'), one, two).stones.map((stone) => stone.label)).toEqual([
      'QT2AR-7',
      'QT0BR-1',
      'QT0TH-3',
      'QT4LB-8',
    ]);
    expect(states(record('sent'), one, two)).toEqual(['heard', 'heard', 'sent']);
    expect(states(record('sent'), one, two, record('expired'))).toEqual(['heard', 'heard', 'broken']);
    expect(states(record('sent'), one, two, record('delivered'))).toEqual(Array(3).fill('acknowledged'));
  });

  it('tells of a hop of which nothing was heard that it is not to come any more, once it ended without proof', () => {
    const one = record('relayed', { via: ['QT0BR-1'] });
    expect(states(record('sent'), one, record('expired'))).toEqual(['heard', 'broken', 'left']);
    expect(states(record('queued'), record('cancelled'))).toEqual(['left', 'left', 'left']);
    expect(causewayInWords(draw(record('sent'), one, record('expired')))).toMatch(/QT4LB-8: nothing heard of it$/);
    const phone = (evidence: Evidence[]) =>
      causewayOf({ ...leg, far: '0155 2040' }, evidence, statusOf(evidence, context, NOW)).strips.at(-1)!.state;
    expect(phone([record('sent')])).toBe('planned');
    expect(phone([record('sent'), record('expired')])).toBe('left');
  });

  it('marks what an acknowledgement does not prove as inferred', () => {
    const { stones, strips } = draw(record('sent'), record('delivered'));
    expect(stones.map((stone) => stone.label)).toEqual(['QT2AR-7', 'QT4LB-8']);
    expect(strips).toMatchObject([{ state: 'acknowledged', inferred: true }]);
  });

  it('draws the road of an arrived item as its packet shows it', () => {
    const heardBy = (text: string) => {
      const packet = parseMonitorLine(octetsOfText(`QT2AR-7>B${text}:x`), { escapes: false });
      if (!packet.ok) throw new Error(packet.error.reason);
      return explainRoad(packet.value);
    };
    const named = (call: string) => ({ call, certain: true });
    const gated = heardBy(',QT0BR-1*,qAR,QT1GW-10');
    const arrivedBy = arrivalRoad([gated, heardBy(',QT0BR-1*,QT0TH-3*')]);
    const { stones, strips } = causewayOf({ ...leg, arrivedBy }, [record('delivered')], { outcome: null });
    expect(stones.map((stone) => stone.label)).toEqual([leg.from, 'QT0BR-1', 'QT0TH-3', leg.to]);
    expect(strips).toMatchObject(Array(3).fill({ state: 'accepted', inferred: false }));
    // What a gateway says of the air is its word.
    expect(arrivalRoad([gated])).toEqual([{ call: 'QT0BR-1', certain: false }, named('QT1GW-10')]);
    expect(arrivalRoad([heardBy(''), gated])).toEqual([]);
    // Over a text feed only the last one is told; one that did not sign keeps its place.
    const likely = causewayOf(
      { ...leg, arrivedBy: arrivalRoad([heardBy(',QT0BR-1,QT0TH-3*')]) },
      [record('delivered')],
      {
        outcome: null,
      },
    );
    expect(likely.strips.map(({ inferred }) => inferred)).toEqual([true, false, false]);
    expect(arrivalRoad([heardBy(',WIDE1*,QT0TH-3*')])).toEqual([{ call: null, certain: true }, named('QT0TH-3')]);
  });

  const repeat = (hops: (string | null)[], open: string[]) =>
    record('relayed', {
      via: hops.flatMap((call) => call ?? []),
      road: { how: 'relayed', hops: hops.map((call) => ({ call, certain: true })), open, gate: null },
    });

  it('keeps a hop that did not sign, and draws nothing as to come that is used up', () => {
    const unsigned = draw(record('sent'), repeat([null], ['WIDE2-1']));
    expect(unsigned.stones.map((stone) => stone.label)).toEqual([
      leg.from,
      'a digipeater that did not sign',
      'WIDE2-1',
      leg.to,
    ]);
    expect(unsigned.strips.map(({ state }) => state)).toEqual(['heard', 'sent', 'planned']);
    // A high digipeater took both elements: none is left.
    const used = draw(record('sent'), repeat(['QT0TH-3'], []));
    expect(used.stones.map((stone) => stone.label)).toEqual([leg.from, 'QT0TH-3', leg.to]);
  });

  it('shows no road but that of the record that it cites', () => {
    const one = repeat(['QT0BR-1', 'QT0TH-3'], []);
    const other = repeat(['QT9SA', 'QT0TH-3'], []);
    const { strips } = draw(record('sent'), one, other);
    expect(strips.slice(0, 2).map(({ evidence }) => evidence)).toEqual([[one.id], [one.id]]);
  });

  it('draws both hops of WIDE2-2, and speaks', () => {
    const two = causewayOf({ ...leg, path: ['WIDE2-2'] }, [], { outcome: null });
    expect(two.stones.map((stone) => stone.label)).toEqual(['QT2AR-7', 'WIDE2-2 (1)', 'WIDE2-2 (2)', 'QT4LB-8']);
    expect(causewayInWords(draw(record('sent')))).toContain('QT2AR-7 to WIDE1-1: sent; ');
  });

  it('shows the leg that got furthest, of equals the latest', () => {
    const legs = ['a', 'b', 'c'].map((legId) => ({ ...leg, legId }));
    expect(bestLeg(legs, [])?.legId).toBe('c');
    expect(bestLeg(legs, [record('relayed', { legId: 'b' })])?.legId).toBe('b');
    expect(bestLeg([], [])).toBeUndefined();
  });
});

describe('retries', () => {
  it('double from 32 s – longer than digipeaters drop repeats – to the cap', () => {
    const steady = { ...DEFAULT_RETRY, jitter: 0 };
    expect([1, 2, 3, 4, 5, 6, 7].map((n) => retryDelayMs(steady, n, 0.5, true) / 1000)).toEqual([
      32, 64, 128, 256, 512, 600, 600,
    ]);
  });
  it('jitter stays within its share', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), fc.double({ min: 0, max: 0.999, noNaN: true }), (n, random) => {
        const plain = retryDelayMs({ ...DEFAULT_RETRY, jitter: 0 }, n, 0, false);
        const moved = retryDelayMs(DEFAULT_RETRY, n, random, false);
        // Over digipeaters only upward.
        const over = retryDelayMs(DEFAULT_RETRY, n, random, true);
        expect(over).toBeGreaterThanOrEqual(plain);
        expect(over).toBeLessThanOrEqual(1.2 * plain + 1);
        expect(Math.abs(moved - plain)).toBeLessThanOrEqual(0.2 * plain + 1);
        expect(reconnectDelayMs(n, random)).toBeLessThanOrEqual(60_000);
        expect(reconnectDelayMs(n, random)).toBeGreaterThanOrEqual(500);
      }),
    );
  });
});

describe('messages to us', () => {
  const message = {
    kind: 'message' as const,
    addressee: 'QT2AR-7',
    text: 'Hi',
    number: '7',
    numberField: '7',
    replyAck: null,
  };
  const before = { number: '7', text: 'Hi', heardAtMs: 0 };
  it('stores a new one, acknowledges a repeat again without storing it', () => {
    expect(decideIncoming(message, 0, [], false)).toEqual({ action: 'store', answer: 'ack' });
    expect(decideIncoming(message, 60_000, [before], false)).toMatchObject({ action: 'repeat', answer: 'ack' });
    expect(decideIncoming({ ...message, text: 'Ho' }, 60_000, [before], false).action).toBe('store');
    expect(decideIncoming(message, REPEAT_WINDOW_MS + 1, [before], false).action).toBe('store');
    expect(decideIncoming({ ...message, number: null }, 0, [before], false)).toEqual({ action: 'store', answer: null });
  });
  it('rejects when the store is full, but still acknowledges a repeat of what it holds', () => {
    expect(decideIncoming(message, 0, [], true)).toEqual({ action: 'reject', answer: 'rej' });
    expect(decideIncoming(message, 0, [before], true).action).toBe('repeat');
    expect(decideIncoming({ ...message, number: null }, 0, [], true).action).toBe('no room');
  });
});
