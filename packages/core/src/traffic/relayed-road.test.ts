import { causewayInWords, causewayOf, joinRoads, type LegRoad } from './causeway';
import type { Evidence, EvidenceKind } from './evidence';
import { statusOf } from './status';

let n = 0;
const record = (kind: EvidenceKind, legId: string, more: Partial<Evidence> = {}): Evidence => ({
  id: String(++n).padStart(6, '0'),
  kind,
  at: `2026-11-25T08:00:${String(n % 60).padStart(2, '0')}.000Z`,
  legId,
  attempt: 1,
  bearer: 'x',
  by: null,
  via: [],
  raw: null,
  note: null,
  expectBy: null,
  ...more,
});
const here: LegRoad = {
  legId: 'here',
  from: 'LSFARM',
  to: 'SKSCHL',
  path: [],
  arrivedBy: [{ call: 'BCNRIG', certain: true }],
};
const on: LegRoad = { legId: 'on', from: 'QT2AR-7', to: 'TELTXT', path: ['WIDE1-1', 'WIDE2-1'], far: 'Ferry Office' };
const going = { outcome: null };
const states = (evidence: Evidence[]) => causewayOf(on, evidence, going).strips.map(({ state }) => state);

beforeEach(() => (n = 0));

describe('the road behind a service', () => {
  it('is planned until the service has a word of the far side', () => {
    expect(states([record('sent', 'on')])).toEqual(['sent', 'planned', 'planned', 'planned']);
    const relayed = record('relayed', 'on', { via: ['QT0BR-1'] });
    expect(states([record('sent', 'on'), relayed])).toEqual(['heard', 'sent', 'planned', 'planned']);
  });
  it('is accepted when the service took it further, acknowledged when the far side answered', () => {
    const sent = [record('sent', 'on'), record('accepted', 'on', { by: 'TELTXT' })];
    expect(states(sent).at(-1)).toBe('planned');
    expect(states(sent)[0]).toBe('accepted');
    const handed = [...sent, record('handed on', 'on', { by: 'TELTXT' })];
    expect(states(handed).at(-1)).toBe('accepted');
    const answered = [...handed, record('answered', 'on', { by: '005550142' })];
    expect(new Set(states(answered))).toEqual(new Set(['acknowledged']));
  });
  it('shows a far side of no other leg', () => {
    const evidence = [record('handed on', 'other')];
    expect(states(evidence).at(-1)).toBe('planned');
  });
});

describe('roads one after another', () => {
  it('are one road: where one ends the next begins', () => {
    const evidence = [record('delivered', 'here', { by: 'LSFARM' }), record('sent', 'on'), record('handed on', 'on')];
    const joined = joinRoads([causewayOf(here, evidence, going), causewayOf(on, evidence, going)])!;
    expect(joined.stones).toHaveLength(joined.strips.length + 1);
    expect(causewayInWords(joined)).toBe(
      'LSFARM to BCNRIG: accepted; BCNRIG to SKSCHL: accepted; SKSCHL to TELTXT: accepted; TELTXT to Ferry Office: accepted',
    );
    for (const strip of joined.strips) expect(strip.evidence.length).toBeGreaterThan(0);
  });
  it('of none are none, of one are that one', () => {
    expect(joinRoads([])).toBeNull();
    const road = causewayOf(here, [record('delivered', 'here')], going);
    expect(joinRoads([road])).toEqual(road);
  });
});

describe('the status of what is left at a board or gateway', () => {
  const context = { addressee: 'QT1NC@QT1BB-4', acknowledgementAsked: false };
  const now = '2026-11-25T09:00:00.000Z';
  const words = (...evidence: Evidence[]) => statusOf(evidence, context, now).words;
  it('climbs from queued over accepted and handed on to delivered and answered', () => {
    const ladder: Evidence[] = [record('queued', 'a')];
    expect(words(...ladder)).toBe('waiting to be sent');
    ladder.push(record('accepted', 'a', { by: 'QT1BB-4' }));
    expect(words(...ladder)).toBe('accepted by QT1BB-4');
    ladder.push(record('handed on', 'a', { by: 'QT1BB-4' }));
    expect(words(...ladder)).toBe('handed on by QT1BB-4');
    ladder.push(record('delivered', 'a', { by: 'QT1NC' }));
    expect(words(...ladder)).toBe('delivered: acknowledged in the name of QT1NC');
    ladder.push(record('answered', 'a', { by: 'QT1NC' }));
    expect(words(...ladder)).toBe('answered by QT1NC');
  });
  it('is not clouded by an interrupted try once another one was accepted', () => {
    expect(words(record('queued', 'a'), record('interrupted', 'a'))).toBe(
      'cut off: it may already have been sent or taken',
    );
    expect(words(record('queued', 'a'), record('interrupted', 'a'), record('accepted', 'a', { by: 'QT1RM-12' }))).toBe(
      'accepted by QT1RM-12',
    );
  });
  it('tells a refusal with its reason, and what would prove the next rung', () => {
    expect(words(record('queued', 'a'), record('refused', 'a', { by: 'QT1BB-4', note: 'no such area' }))).toBe(
      'refused by QT1BB-4: no such area',
    );
    const accepted = statusOf([record('accepted', 'a', { by: 'QT1RM-12' })], context, now);
    expect(accepted.wouldProve).toBe('word from the next system, or a delivery report');
  });
});
