import {
  answersQuestion,
  readField,
  type Proves,
  type Service,
  type ServiceQuestion,
  type ServiceWord,
} from '@tombolo/core';
import { rowsOf, rowsOfPrepared, type Queries } from '../store/database';

/** A command of ours that a service may answer. */
export interface OpenQuestion {
  readonly itemId: string;
  readonly legId: string;
  readonly attempt: number;
  readonly values: Readonly<Record<string, string>>;
  /** What its service, or somebody behind it, said already. */
  readonly said: readonly string[];
}

/** Whether a service took something, it says soon. (Common practice, no source.) */
const TAKEN_WITHIN_MS = 3600_000;
/** Of more that fit the latest are looked at. */
const MOST_LOOKED_AT = 40;
/** What was written by hand may be answered so long. (Common practice, no source.) */
const BY_HAND_S = 86_400;

/** What an answer can prove of a question. */
export type Proving = Exclude<Proves, 'nothing'>;

export const provesSomething = (word: ServiceWord): word is ServiceWord & { readonly proves: Proving } =>
  word.proves !== 'nothing';

/** Evidence that settles what an answer of a sort could prove. */
const SETTLED: Readonly<Record<Proving, readonly string[]>> = {
  taken: ['handed on', 'refused'],
  refused: ['handed on', 'refused', 'answered'],
  answer: ['answered'],
  told: ['answered', 'refused'],
};

interface Row {
  item_id: string;
  leg_id: string;
  attempt: number;
  intended_at: Date;
  question: ServiceQuestion;
  body: string;
  said: string[];
}

const LATELY = `role = 'convey' and to_call = $1 and created_at > $2::timestamptz - interval '8 days'`;

/** The transmissions of a sort to a service: by what is named, which is few, before all else; or among those of the last days. */
const ofSort = (sort: string, isNamed: boolean): string =>
  isNamed
    ? `named as materialized (select * from leg where detail ? 'service' and (${sort})),
       l as materialized (select * from named where ${LATELY})`
    : `l as materialized (select * from leg where ${LATELY} and detail ? 'service' and (${sort}))`;

/** The latest transmissions of a sort, with their last try and what was said of them. */
const latest = (sort: string, isNamed: boolean): string => `
  with ${ofSort(sort, isNamed)}
  select l.item_id, l.id as leg_id, a.n as attempt, a.intended_at, l.detail->'service' as question, i.body,
    array(select e.kind from evidence e where e.leg_id = l.id and e.kind in ('handed on', 'answered', 'refused')) as said
  from l join item i on i.id = l.item_id
  join lateral (select n, intended_at from attempt where leg_id = l.id and intended_at <= $2 order by n desc limit 1) a on true
  order by a.intended_at desc limit ${MOST_LOOKED_AT}`;

/** What an answer names of a command, as it was sent: containment finds it by an index. */
function named(service: Service, word: ServiceWord): { readonly command: string; readonly values: object }[] {
  return service.commands
    .filter(({ id }) => word.of.length === 0 || word.of.includes(id))
    .map(({ id, fields }) => ({
      command: id,
      values: Object.fromEntries(
        // Names of places are written in many ways: those are compared afterwards.
        fields.flatMap((field) => {
          const group = Object.hasOwn(word.groups, field.id) ? word.groups[field.id]! : '';
          if (field.kind === 'text' || field.kind === 'place' || group === '') return [];
          const read = readField(field.kind, group);
          return read.ok ? [[field.id, read.value]] : [];
        }),
      ),
    }));
}

/**
 * The questions that an answer can belong to, the latest first: one is the one; several cannot be told apart by what it says; none fits.
 * A question that has had such an answer already is taken only where nothing is open.
 */
export async function questionsFor(
  queries: Queries,
  service: Service,
  word: ServiceWord & { readonly proves: Proving },
  heardAtMs: number,
): Promise<OpenQuestion[]> {
  const at = new Date(heardAtMs);
  const wanted = named(service, word);
  // A value that is named finds few; a command that all have in common would only be looked through.
  const kinds = [
    ...wanted.map(({ command, values }) => (Object.keys(values).length > 0 ? { values } : { command })),
    { byHand: true },
  ];
  const isNamed = wanted.every(({ values }) => Object.keys(values).length > 0);
  // A prepared plan does not know the values: only where it can have no other plan.
  const rows = await (isNamed ? rowsOfPrepared : rowsOf)<Row>(
    queries,
    latest(kinds.map((_, n) => `detail->'service' @> $${n + 3}::jsonb`).join(' or '), isNamed),
    [service.address, at, ...kinds.map((one) => JSON.stringify(one))],
  );
  const soon = word.proves === 'answer' ? Infinity : TAKEN_WITHIN_MS;
  const fits = rows.filter(({ intended_at, question, body }) => {
    const withinS = service.commands.find(({ id }) => id === question.command)?.answerWithinS ?? BY_HAND_S;
    if (heardAtMs - intended_at.getTime() > Math.min(soon, withinS * 1000)) return false;
    if (!question.byHand) return answersQuestion(word, question);
    return Object.entries(word.groups).every(
      ([id, value]) => id === 'text' || id === 'reason' || body.toLowerCase().includes(value.toLowerCase()),
    );
  });
  const open = fits.filter(({ said }) => !SETTLED[word.proves].some((kind) => said.includes(kind)));
  // Told once more, it is about what was told of last.
  const chosen = open.length > 0 ? onePerItem(open) : fits.slice(0, 1);
  return chosen.map(({ item_id, leg_id, attempt, question, said }) => ({
    itemId: item_id,
    legId: leg_id,
    attempt,
    values: question.values,
    said,
  }));
}

/** Of an item that went to a service twice the later transmission. */
function onePerItem(rows: readonly Row[]): Row[] {
  const seen = new Set<string>();
  return rows.filter(({ item_id }) => !seen.has(item_id) && seen.add(item_id));
}
