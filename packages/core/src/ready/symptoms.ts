import { CAUSES, type CauseId } from './causes';
import { canShow, NOT_LISTED, type FaultCause, type FaultTest, type RuleBase } from './rule-base';
import { TESTS } from './tests';

interface Symptom {
  readonly id: string;
  readonly words: string;
  /** How often each cause is behind it, against the others (estimates, no source; what is found here corrects them). */
  readonly weights: Readonly<Partial<Record<CauseId, number>>>;
}

/** Rare, and asked first all the same. */
const DANGERS = { 'no-licence': 0.2, 'no-antenna': 0.4, 'too-near': 0.1, 'bad-cell': 0.1 } as const;
const SET = { 'modem-off': 6, 'wireless-stopped': 3, 'wrong-receiver': 3 } as const;
const LINE = { 'bearer-off': 2, 'port-away': 5, 'line-speed': 3, 'not-kiss': 2 } as const;

/** What people see, in their words. */
export const SYMPTOMS = [
  {
    id: 'nothing-goes-out',
    words: 'Nothing goes out',
    weights: { ...DANGERS, ...SET, ...LINE, locked: 4, held: 2, 'no-key-line': 3, 'never-clear': 2, 'weak-cell': 2 },
  },
  {
    id: 'never-repeated',
    words: 'It is sent, but nobody repeats it',
    weights: {
      ...DANGERS,
      'wrong-receiver': 2,
      'wrong-frequency': 4,
      'wrong-on-air-speed': 1,
      'short-delay': 4,
      'too-loud': 4,
      'too-soft': 2,
      'out-of-range': 8,
      'no-path': 3,
      'dead-path': 2,
      'weak-cell': 2,
      crowded: 2,
    },
  },
  {
    id: 'never-acknowledged',
    words: 'It is repeated, but never acknowledged',
    weights: { 'far-off': 8, 'far-no-texts': 3, 'other-ssid': 4, 'lower-case': 2, 'answers-lost': 4, crowded: 2 },
  },
  {
    id: 'nothing-decodes',
    words: 'I hear packets, but none is shown',
    weights: {
      ...SET,
      ...LINE,
      'deaf-cable': 3,
      'wrong-on-air-speed': 2,
      'tone-on': 4,
      squelch: 2,
      'wrong-frequency': 2,
      scanning: 2,
    },
  },
  {
    id: 'position-not-shown',
    words: 'My position is not shown',
    weights: {
      'no-fix': 6,
      'swapped-lines': 2,
      'receiver-off': 3,
      'port-speed': 4,
      'reports-off': 5,
      'out-of-range': 5,
      'no-path': 2,
      'voice-gateway': 2,
      'gateway-gone': 3,
      'wrong-clock': 1,
    },
  },
  {
    id: 'wrong-place',
    words: 'My position is shown in the wrong place',
    weights: { 'wrong-half': 3, 'minutes-as-decimals': 3, 'old-fix': 5, datum: 1, blanked: 2 },
  },
  {
    id: 'nothing-moves',
    words: 'Connected, but nothing moves',
    weights: { 'far-busy': 3, 'long-frames': 3, 'your-turn': 4, 'link-lost': 4 },
  },
  {
    id: 'mesh-empty',
    words: 'The list of mesh nodes is empty',
    weights: {
      'no-antenna': 0.4,
      'bad-cell': 0.1,
      'mesh-young': 8,
      'mesh-node-away': 3,
      'mesh-unset': 4,
      'mesh-setting': 3,
      'mesh-key': 2,
      'mesh-far': 4,
    },
  },
  {
    id: 'mail-ends',
    words: 'A mail session ends at once',
    weights: { 'wrong-password': 4, 'gateway-taken': 3, 'gateway-silent': 5, 'other-protocol': 2, 'link-lost': 3 },
  },
  {
    id: 'nothing-comes',
    words: 'Messages of others do not come',
    weights: {
      'not-gated': 5,
      'own-ssid': 3,
      'store-full': 2,
      'left-group': 2,
      'tone-on': 2,
      'modem-off': 2,
      'wrong-frequency': 2,
    },
  },
] as const satisfies readonly Symptom[];
export type SymptomId = (typeof SYMPTOMS)[number]['id'];
export const SYMPTOM_IDS = SYMPTOMS.map(({ id }) => id) as readonly SymptomId[];

/** What an operator added: a cause, and the question that tells it. */
export interface OwnCause extends FaultCause {
  readonly symptom: SymptomId;
  readonly question: string;
  readonly costS: number;
}

/** Whether a test tells any of these causes from another. */
const tells = (test: FaultTest, causeIds: readonly string[]): boolean =>
  test.outcomes.some((outcome) => {
    const can = causeIds.filter((id) => canShow(test, outcome, id)).length;
    return can > 0 && can < causeIds.length;
  });

/** Only what the causes of a symptom can show; an outcome that none of them shows is still one that somebody may see. */
const among = (test: FaultTest, causeIds: readonly string[]): FaultTest => ({
  ...test,
  outcomes: test.outcomes.map((outcome) => ({
    ...outcome,
    shows: outcome.shows === 'rest' ? 'rest' : outcome.shows.filter((id) => causeIds.includes(id)),
    maybe: outcome.maybe?.filter((id) => causeIds.includes(id)),
  })),
});

/** Everything that is known about a symptom, with what operators added. */
export function ruleBaseOf(symptom: SymptomId, own: readonly OwnCause[] = []): RuleBase {
  const { weights } = SYMPTOMS.find(({ id }) => id === symptom)!;
  const added = own.filter((one) => one.symptom === symptom);
  const causes: FaultCause[] = [
    ...Object.entries(weights).map(([id, weight]) => ({ id, weight, ...CAUSES[id as CauseId] })),
    ...added.map(({ id, words, remedy, weight }) => ({ id, words, remedy, weight })),
  ];
  const causeIds = [...causes.map(({ id }) => id), NOT_LISTED];
  return {
    symptom,
    causes,
    tests: [
      ...TESTS.filter(({ symptoms }) => symptoms?.includes(symptom) ?? true)
        .map((test) => among(test, causeIds))
        .filter((test) => tells(test, causeIds)),
      ...added.map(({ id, question, costS }): FaultTest => ({
        id: `own-${id}`,
        question,
        costS,
        outcomes: [
          { id: 'yes', words: 'Yes', shows: [id] },
          { id: 'no', words: 'No', shows: 'rest' },
        ],
      })),
    ],
  };
}
