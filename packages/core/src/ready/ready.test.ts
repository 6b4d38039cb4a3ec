import fc from 'fast-check';
import { CAUSES } from './causes';
import { bestExact } from './exact';
import { faultTable, posterior, type Answers, type FaultTable } from './fault-table';
import { bestFollowed, bestTest } from './lookahead';
import { causeWords, checkState } from './next-question';
import { canShow, NOT_LISTED, ruleBaseFaults, type FaultTest, type RuleBase } from './rule-base';
import { seenOutcomes, type StationSees } from './seen';
import { ruleBaseOf, SYMPTOM_IDS, SYMPTOMS, type OwnCause } from './symptoms';
import { TESTS } from './tests';

const cause = (id: string, weight: number) => ({ id, words: id, remedy: id, weight });
/** A test that shows one cause and nothing else. */
const seesOne = (id: string, costS: number): FaultTest => ({
  id,
  question: id,
  costS,
  outcomes: [
    { id: 'yes', words: 'Yes', shows: [id] },
    { id: 'no', words: 'No', shows: 'rest' },
  ],
});

/** Everything that is asked until a verdict, while this is the fault. */
function walk(base: RuleBase, causeId: string, pick = 0, known: Answers = {}, counted = {}) {
  const answers: Record<string, string> = { ...known };
  const asked: string[] = [];
  let timeS = 0;
  for (;;) {
    const state = checkState(base, answers, counted);
    if (state.is !== 'question') return { state, asked, timeS };
    const shown = state.test.outcomes.filter((outcome) => canShow(state.test, outcome, causeId));
    answers[state.test.id] = shown[pick % shown.length]!.id;
    asked.push(state.test.id);
    timeS += state.test.costS;
  }
}

/** Expected time of the best of all orders, by trying every one: slow, and with nothing in common with what is tested. */
function bestOfAll({ priors, tests }: FaultTable): number {
  const known = new Map<string, number>();
  const from = (left: readonly number[]): number => {
    const key = left.join();
    const before = known.get(key);
    if (before !== undefined) return before;
    const all = left.reduce((sum, n) => sum + priors[n]!, 0);
    let best = Infinity;
    for (const { costS, chances } of tests) {
      const parts = chances.map((row) => left.filter((n) => row[n]! > 0));
      if (parts.some((part) => part.length === left.length)) continue;
      const then = parts.map((part) =>
        part.length === 0 ? 0 : (part.reduce((sum, n) => sum + priors[n]!, 0) / all) * from(part),
      );
      best = Math.min(best, costS + then.reduce((sum, one) => sum + one, 0));
    }
    const found = best === Infinity ? 0 : best;
    known.set(key, found);
    return found;
  };
  return from([...priors.keys()]);
}

/** A rule base in which tests tell arbitrary sets of causes. */
const anyBase = (most: number) =>
  fc
    .tuple(
      fc.array(fc.integer({ min: 1, max: 100 }), { minLength: 2, maxLength: most }),
      fc.array(
        fc.tuple(
          fc.integer({ min: 1, max: 300 }),
          fc.array(fc.integer({ min: 0, max: 3 }), { minLength: most, maxLength: most }),
        ),
        {
          minLength: 1,
          maxLength: 14,
        },
      ),
    )
    .map(([weights, tests]): RuleBase => {
      const causes = weights.map((weight, n) => cause(`c${n}`, weight));
      const parts = (row: readonly number[], part: number) =>
        causes.filter((_, n) => row[n] === part).map(({ id }) => id);
      return {
        symptom: 'any',
        causes,
        tests: tests.map(([costS, row], t) => ({
          id: `t${t}`,
          question: '',
          costS,
          outcomes: [
            { id: 'rest', words: '', shows: 'rest' },
            ...[1, 2, 3].map((part) => ({ id: String(part), words: '', shows: parts(row, part) })),
          ],
        })),
      };
    });

describe('the order of questions', () => {
  it('is that by probability over cost where each test sees one cause (Kadane and Simon 1977, from memory)', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 1, max: 200 })), {
          minLength: 2,
          maxLength: 9,
          // Of equals either may come first.
          selector: ([weight, costS]) => weight / costS,
        }),
        (pairs) => {
          const causes = pairs.map(([weight], n) => cause(`c${n}`, weight));
          const base = { symptom: 'one each', causes, tests: pairs.map(([, costS], n) => seesOne(`c${n}`, costS)) };
          const byRatio = [...pairs.keys()]
            .sort((a, b) => pairs[b]![0] / pairs[b]![1] - pairs[a]![0] / pairs[a]![1])
            .map((n) => `c${n}`);
          // While it is none of them, all are asked.
          expect(walk(base, NOT_LISTED).asked).toEqual(byRatio);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is the best of all orders, as trying every one finds it, up to twelve causes', () => {
    fc.assert(
      fc.property(anyBase(7), (base) => {
        const table = faultTable(base);
        const exact = bestExact(table.priors, table.tests);
        expect(exact?.expectedS ?? 0).toBeCloseTo(bestOfAll(table), 6);
      }),
      { numRuns: 150 },
    );
    const [twelve] = fc.sample(anyBase(11), { numRuns: 1, seed: 7 });
    const table = faultTable(twelve!);
    expect(bestExact(table.priors, table.tests)?.expectedS ?? 0).toBeCloseTo(bestOfAll(table), 6);
  });

  it('takes little longer where there are too many causes for the best: on average 5 %, never more than a quarter', () => {
    const ratios = fc
      .sample(anyBase(11), { numRuns: 250, seed: 3 })
      .map((base) => faultTable(base))
      .map((table) => {
        const followed = bestFollowed(table.priors, table.tests);
        return (followed?.expectedS ?? 0) / (bestExact(table.priors, table.tests)?.expectedS || 1) || 1;
      });
    expect(ratios.reduce((sum, one) => sum + one, 0) / ratios.length).toBeLessThanOrEqual(1.05);
    expect(Math.max(...ratios)).toBeLessThanOrEqual(1.25);
    expect(Math.min(...ratios)).toBeGreaterThanOrEqual(1 - 1e-9);
  });

  it('is not said to be the best where a cause shows an outcome at times only', () => {
    const [a, b] = [cause('a', 1), cause('b', 1)];
    const sometimes: FaultTest = {
      ...seesOne('a', 1),
      outcomes: [
        { id: 'yes', words: 'Yes', shows: ['a'], maybe: ['b'] },
        { id: 'no', words: 'No', shows: 'rest' },
      ],
    };
    const exact = (test: FaultTest) => {
      const table = faultTable({ symptom: 's', causes: [a, b], tests: [test, seesOne('b', 5)] });
      return bestTest(table.priors, table.tests)?.exact;
    };
    expect([exact(seesOne('a', 1)), exact(sometimes)]).toEqual([true, false]);
  });

  it('is exact for few causes and followed for many', () => {
    const many = (n: number) => {
      const causes = Array.from({ length: n }, (_, i) => cause(`c${i}`, 1 + (i % 7)));
      return faultTable({ symptom: 'many', causes, tests: causes.map(({ id }, i) => seesOne(id, 1 + (i % 5))) });
    };
    expect(bestTest(many(8).priors, many(8).tests)).toMatchObject({ exact: true });
    expect(bestTest(many(40).priors, many(40).tests)).toMatchObject({ exact: false });
  });
});

describe('what is known of each symptom', () => {
  it.each(SYMPTOM_IDS)('“%s” has no contradiction in it', (id) => {
    expect(ruleBaseFaults(ruleBaseOf(id))).toEqual([]);
  });

  it('uses every cause and every test that there is', () => {
    const used = SYMPTOM_IDS.map((id) => ruleBaseOf(id));
    expect(new Set(used.flatMap(({ causes }) => causes.map(({ id }) => id)))).toEqual(new Set(Object.keys(CAUSES)));
    expect(new Set(used.flatMap(({ tests }) => tests.map(({ id }) => id)))).toEqual(new Set(TESTS.map(({ id }) => id)));
  });

  it.each(SYMPTOMS.flatMap(({ id, weights }) => Object.keys(weights).map((fault) => [id, fault])))(
    '“%s” because of “%s” is found, whatever of two things is seen',
    (id, fault) => {
      const base = ruleBaseOf(id as (typeof SYMPTOM_IDS)[number]);
      for (const pick of [0, 1]) {
        const { state } = walk(base, fault, pick);
        expect(state.is === 'verdict' && state.possible.map(({ causeId }) => causeId)).toEqual([fault]);
      }
    },
  );

  it.each(SYMPTOM_IDS)('“%s” by something else is said to be on no list', (id) => {
    const { state } = walk(ruleBaseOf(id), NOT_LISTED);
    expect(state.is === 'verdict' && state.possible.map(({ causeId }) => causeId)).toEqual([NOT_LISTED]);
    expect(causeWords(ruleBaseOf(id), NOT_LISTED).words).toMatch(/not on this list/);
  });
});

describe('a check', () => {
  const base = ruleBaseOf('nothing-goes-out');
  const safe = { licence: 'yes', antenna: 'yes', distance: 'yes', cell: 'yes' };
  const dangers = TESTS.filter(({ danger }) => danger !== undefined).map(({ id }) => id);

  it('asks first what can hurt, in its order, whatever it costs, and stops there', () => {
    const { asked } = walk(base, 'modem-off');
    expect(asked.slice(0, 4)).toEqual(dangers);
    expect(checkState(base, {})).toMatchObject({ is: 'question', expectedS: null, test: { id: 'licence' } });
    const state = checkState(base, { licence: 'yes', antenna: 'no' });
    expect(state.is === 'verdict' && state.possible[0]!.causeId).toBe('no-antenna');
    // Also where what the station sees would speak against it: two things can be wrong at once.
    const both = checkState(base, { octets: 'garbled', licence: 'yes', antenna: 'no' });
    expect(both.is === 'verdict' && both.possible[0]!.causeId).toBe('no-antenna');
  });

  it('says what each answer leaves, what is still possible, and what it expects', () => {
    const state = checkState(base, safe);
    if (state.is !== 'question') throw new Error(state.is);
    expect(state.leaves.every(({ left }) => left < state.possible.length)).toBe(true);
    expect(state.possible.reduce((sum, { chance }) => sum + chance, 0)).toBeCloseTo(1, 9);
    expect(state.expectedS).toBeGreaterThanOrEqual(state.test.costS);
  });

  it('asks nothing that the station has seen by itself', () => {
    const seen = {
      licence: 'yes',
      antenna: 'yes',
      lock: 'no',
      hold: 'no',
      bearer: 'yes',
      port: 'yes',
      octets: 'garbled',
    };
    const { asked, state } = walk(base, 'line-speed', 0, seen);
    expect(asked).toEqual(['distance', 'cell']);
    expect(state.is === 'verdict' && state.possible.map(({ causeId }) => causeId)).toEqual(['line-speed']);
  });

  it('says so when the answers contradict each other', () => {
    expect(checkState(base, { ...safe, mark: 'no', dims: 'yes' })).toEqual({ is: 'contradiction' });
    expect([...posterior(faultTable(base), { mark: 'no', dims: 'yes' })].every((one) => one === 0)).toBe(true);
  });

  it('ignores answers to questions and outcomes that there are not', () =>
    expect(checkState(base, { nothing: 'yes', mark: 'perhaps' })).toEqual(checkState(base, {})));

  it('learns from what was found here', () => {
    const before = faultTable(base);
    const after = faultTable(base, { 'weak-cell': 20 });
    const n = before.causeIds.indexOf('weak-cell');
    // Twenty runs that all found it count as much as the twenty that the list is taken for.
    expect(after.priors[n]).toBeCloseTo((before.priors[n]! + 1) / 2, 9);
    expect(after.priors.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 9);
    const timeS = (counted: Record<string, number>) => walk(base, 'weak-cell', 0, {}, counted).timeS;
    expect(timeS({ 'weak-cell': 200 })).toBeLessThan(timeS({ 'modem-off': 200 }));
  });

  it('asks for what an operator added, and finds it', () => {
    const own: OwnCause = {
      ...cause('own-fuse', 3),
      symptom: 'nothing-goes-out',
      question: 'Is the fuse of the truck blown?',
      costS: 30,
    };
    const more = ruleBaseOf('nothing-goes-out', [own]);
    expect(ruleBaseFaults(more)).toEqual([]);
    const { state, asked } = walk(more, 'own-fuse');
    expect(state.is === 'verdict' && state.possible[0]!.causeId).toBe('own-fuse');
    expect(asked).toContain('own-own-fuse');
    expect(ruleBaseOf('mail-ends', [own])).toEqual(ruleBaseOf('mail-ends'));
  });
});

describe('a rule base that cannot be used', () => {
  const good: RuleBase = { symptom: 's', causes: [cause('a', 1), cause('b', 1)], tests: [seesOne('a', 1)] };
  it.each<[string, Partial<RuleBase>, RegExp]>([
    ['a cause twice', { causes: [cause('a', 1), cause('a', 1)] }, /same identifier/],
    ['a cause that cannot be', { causes: [cause('a', 0), cause('b', 1)] }, /how likely/],
    ['a test of nothing', { tests: [seesOne('z', 1)] }, /names z, which is no cause/],
    ['a test in no time', { tests: [seesOne('a', 0)] }, /take some time/],
    [
      'a cause that shows two things always',
      {
        tests: [
          { ...seesOne('a', 1), outcomes: [...seesOne('a', 1).outcomes, { id: 'both', words: '', shows: ['a'] }] },
        ],
      },
      /contradict/,
    ],
    [
      'no outcome of the rest',
      { tests: [{ ...seesOne('a', 1), outcomes: [{ id: 'x', words: '', shows: ['a'] }] }] },
      /rest/,
    ],
  ])('is told apart: %s', (_, wrong, words) => {
    expect(ruleBaseFaults(good)).toEqual([]);
    expect(ruleBaseFaults({ ...good, ...wrong }).join('\n')).toMatch(words);
  });
});

const NOTHING: StationSees = {
  now: '2026-11-25T08:00:00.000Z',
  licenceConfirmed: false,
  locks: [],
  held: false,
  modem: null,
  regionMHz: null,
  named: [],
  positionKnown: false,
  receiver: null,
  anyScans: null,
  lastText: null,
  writtenToAnother: null,
  lastSession: null,
  positionSentAt: null,
  positionRepeatedAt: null,
  ownRepeatedAt: null,
  gatewayHeardAt: null,
  ambiguity: null,
  room: true,
  mesh: null,
};

const NODE = { up: true, reason: null, regionSet: true, upSince: null, nodes: 0, heard: { readable: 0, sealed: 0 } };

describe('what a station sees of its mesh', () => {
  const timeOf = (upSince: string | null) =>
    seenOutcomes({ ...NOTHING, mesh: { ...NODE, up: upSince !== null, upSince } }).find(
      ({ testId }) => testId === 'mesh-time',
    );
  it('is that its node has been on for long, and never that it has not', () => {
    expect(timeOf('2026-11-25T06:59:00.000Z')).toMatchObject({
      outcomeId: 'yes',
      words: 'The node answers since 06:59Z.',
    });
    expect(timeOf('2026-11-25T07:30:00.000Z')).toEqual({
      testId: 'mesh-time',
      outcomeId: null,
      words: 'The node answers since 07:30Z: if it was switched on then, the first ones are expected by 08:00Z.',
    });
    expect(timeOf(null)).toBeUndefined();
    expect(seenOutcomes(NOTHING).some(({ testId }) => testId.startsWith('mesh'))).toBe(false);
  });
});

describe('what a station sees of the packets of its mesh', () => {
  const left = (heard: { readable: number; sealed: number }) => {
    const sees = seenOutcomes({ ...NOTHING, mesh: { ...NODE, heard } });
    const answers = Object.fromEntries(
      sees.flatMap(({ testId, outcomeId }) => (outcomeId ? [[testId, outcomeId]] : [])),
    );
    const state = checkState(ruleBaseOf('mesh-empty'), { antenna: 'yes', cell: 'yes', ...answers });
    return state.is === 'contradiction' ? [] : state.possible.map(({ causeId }) => causeId).sort();
  };
  it('tells a key that differs from being too early, and silence tells nothing', () => {
    expect(left({ readable: 0, sealed: 3 })).toEqual(['mesh-key', 'mesh-young']);
    expect(left({ readable: 2, sealed: 3 })).toEqual(['mesh-young']);
    // Whoever is on the list was read: then another list is meant.
    const listed = seenOutcomes({ ...NOTHING, mesh: { ...NODE, nodes: 2, heard: { readable: 2, sealed: 0 } } });
    expect(listed.find(({ testId }) => testId === 'mesh-frames')).toEqual({
      testId: 'mesh-frames',
      outcomeId: null,
      words: 'The list is not empty: 2 other nodes on it told their names.',
    });
    expect(left({ readable: 0, sealed: 0 })).toEqual(
      expect.arrayContaining(['mesh-far', 'mesh-key', 'mesh-setting', 'mesh-young']),
    );
  });
});

describe('what a station sees of channel, clock and sets', () => {
  const MODEM = {
    name: 'Radio',
    enabled: true,
    up: true,
    reason: null,
    frames: 40,
    garbled: 0,
    lines: 0,
    tunedMHz: null,
    path: [],
  };
  const of = (testId: string, more: Partial<StationSees>) =>
    seenOutcomes({ ...NOTHING, ...more })
      .filter((one) => one.testId === testId)
      .map(({ outcomeId }) => outcomeId);
  const load = (share: number | null, frames = 40) => of('load', { modem: { ...MODEM, frames, load: share } });

  it('is that the channel is not full; that it is may be the fault or not', () => {
    expect(load(0.1)).toEqual(['no']);
    expect(load(0.6)).toEqual([null]);
    expect(load(0, 0)).toEqual([]);
    expect(load(null)).toEqual([]);
  });

  it('is a clock that differs from that of the receiver, while that has a fix', () => {
    const clock = (clockAheadS: number | null, fresh = true) =>
      seenOutcomes({ ...NOTHING, receiver: { fresh, read: 9, wrong: 0, clockAheadS, silentS: null } })
        .filter(({ testId }) => testId === 'clock')
        .map(({ outcomeId, words }) => `${outcomeId} ${words}`);
    expect(clock(0.4)).toEqual(['yes The clock of this computer is that of the position receiver.']);
    expect(clock(-3600)).toEqual([
      'no The clock of this computer is ahead of that of the position receiver by 3600 s.',
    ]);
    expect(clock(12)).toEqual(['yes The clock of this computer is behind that of the position receiver by 12 s.']);
    expect(clock(-3600, false)).toEqual([]);
    expect(clock(null)).toEqual([]);
  });

  it('is that no set scans, and never which one does', () => {
    expect(of('scan', { anyScans: false })).toEqual(['no']);
    expect(of('scan', { anyScans: true })).toEqual([]);
    expect(of('scan', { anyScans: null })).toEqual([]);
  });
});

describe('what a station sees of its position receiver', () => {
  const of = (
    told: Omit<NonNullable<StationSees['receiver']>, 'clockAheadS' | 'silentS'> | null,
    positionKnown = false,
    silentS: number | null = null,
  ) =>
    seenOutcomes({ ...NOTHING, receiver: told && { ...told, clockAheadS: null, silentS }, positionKnown })
      .filter(({ testId }) => ['fix', 'sentences'].includes(testId))
      .map(({ testId, outcomeId }) => `${testId} ${outcomeId}`);

  it('is whether it tells a position, and whether what it sends can be read', () => {
    expect(of({ fresh: true, read: 40, wrong: 1 }, true)).toEqual(['fix yes', 'sentences lines']);
    expect(of({ fresh: false, read: 40, wrong: 0 })).toEqual(['fix no', 'sentences lines']);
    // Sentences without a checksum cannot be used, and are no sign of a wrong speed.
    expect(of({ fresh: false, read: 40, wrong: 40 })).toEqual(['fix no']);
    expect(of({ fresh: false, read: 0, wrong: 0 })).toEqual(['fix no']);
    // A line that is just open has not been silent.
    expect(of({ fresh: false, read: 0, wrong: 0 }, false, 5)).toEqual(['fix no']);
    expect(of({ fresh: false, read: 0, wrong: 0 }, false, 40)).toEqual(['fix no', 'sentences nothing']);
    // A set may know its place without this program.
    expect(of(null)).toEqual([]);
    expect(of(null, true)).toEqual(['fix yes']);
  });
});

describe('what a station sees of its texts', () => {
  const now = NOTHING.now;
  const ago = (minutes: number) => new Date(Date.parse(now) - minutes * 60_000).toISOString();
  const of = (heard: readonly (readonly [call: string, minutesAgo: number])[], everAnswered = false, byRadio = true) =>
    seenOutcomes({
      ...NOTHING,
      lastText: {
        addressee: 'QT6CL',
        heard: heard.map(([call, minutes]) => ({ call, at: ago(minutes), byRadio })),
        everAnswered,
      },
    })
      .filter(({ testId }) => ['heard', 'theirs', 'ssid', 'takes-texts'].includes(testId))
      .map(({ testId, outcomeId }) => `${testId} ${outcomeId}`);
  const verdict = (...seen: string[]) => {
    const state = checkState(
      ruleBaseOf('never-acknowledged'),
      Object.fromEntries(seen.map((one) => one.split(' ') as [string, string])),
    );
    return state.is === 'verdict' ? state.possible.map(({ causeId }) => causeId) : state.is;
  };

  it('is whether the addressee is there, and under which SSID', () => {
    expect(of([['QT6CL', 5]], true)).toEqual(['heard yes', 'ssid yes', 'takes-texts yes']);
    expect(of([])).toEqual(['heard no']);
    expect(of([['QT6CL', 45]])).toEqual(['heard no', 'ssid yes']);
    expect(of([['QT6CL-9', 5]])).toEqual(['heard no', 'ssid no']);
    // Two sets of one call, both about: it is not known which one the text was for.
    expect(
      of([
        ['QT6CL-9', 5],
        ['QT6CL', 60],
      ]),
    ).toEqual(['heard no']);
    // Heard over the internet alone: nobody knows whether it is in reach.
    expect(of([['QT6CL', 5]], false, false)).toEqual(['ssid yes']);
    // Under another SSID, but long ago.
    expect(of([['QT6CL-9', 300]])).toEqual(['heard no']);
  });

  it('finds the other SSID, and does not take it for a station that is off', () => {
    expect(verdict(...of([['QT6CL-9', 5]]))).toEqual(['other-ssid']);
    // Silent, and nothing else known: it may be off, or there under another SSID.
    expect(verdict(...of([]))).toBe('question');
  });

  it('is who wrote to another SSID of ours', () => {
    const told = (texts: number) =>
      seenOutcomes({ ...NOTHING, writtenToAnother: { by: 'QT1NC', to: 'QT2AR-9', at: ago(20), texts } });
    expect(told(2)).toContainEqual({
      testId: 'own-ssid',
      outcomeId: 'no',
      words: '2 texts from QT1NC were heard, the last to QT2AR-9 on 2026-11-25 at 07:40Z, and none to you since.',
    });
    // One alone is told, and concludes nothing.
    expect(told(1)).toContainEqual({
      testId: 'own-ssid',
      outcomeId: null,
      words: 'One text from QT1NC to QT2AR-9 was heard on 2026-11-25 at 07:40Z, and none to you since.',
    });
    expect(seenOutcomes(NOTHING).some(({ testId }) => testId === 'own-ssid')).toBe(false);
  });
});
