import {
  answersQuestion,
  readField,
  type Proves,
  type Service,
  type ServiceQuestion,
  type ServiceWord,
} from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';

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
/** What was written by hand, or before services had a directory, may be answered so long. (Common practice, no source.) */
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
  question: ServiceQuestion | null;
  far: string | null;
  body: string;
  said: string[];
}

const SELECT = `
  select l.item_id, l.id as leg_id, a.n as attempt, a.intended_at, l.detail->'service' as question, l.detail->'relay'->>'far' as far,
    i.body, array(select e.kind from evidence e where e.leg_id = l.id and e.kind in ('handed on', 'answered', 'refused')) as said
  from leg l join item i on i.id = l.item_id
  join lateral (select n, intended_at from attempt where leg_id = l.id and intended_at <= $2 order by n desc limit 1) a on true
  where l.role = 'convey' and l.to_call = $1 and l.created_at > $2::timestamptz - interval '8 days'`;

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
  const contained = wanted.map((_, n) => `l.detail->'service' @> $${n + 3}::jsonb`).join(' or ');
  const put = wanted.length
    ? await rowsOf<Row>(
        queries,
        `${SELECT} and l.detail ? 'service' and (${contained}) order by a.intended_at desc limit ${MOST_LOOKED_AT}`,
        [service.address, at, ...wanted.map((one) => JSON.stringify({ address: service.address, ...one }))],
      )
    : [];
  const byHand = await rowsOf<Row>(
    queries,
    `${SELECT} and not coalesce(l.detail ? 'service', false) order by a.intended_at desc limit ${MOST_LOOKED_AT}`,
    [service.address, at],
  );
  const soon = word.proves === 'answer' ? Infinity : TAKEN_WITHIN_MS;
  const fits = [...put, ...byHand].filter((row) => {
    const withinS = service.commands.find(({ id }) => id === row.question?.command)?.answerWithinS ?? BY_HAND_S;
    if (heardAtMs - row.intended_at.getTime() > Math.min(soon, withinS * 1000)) return false;
    if (row.question) return answersQuestion(word, row.question);
    if (row.far !== null) return answersQuestion(word, { command: '', values: { to: row.far } }) || word.of.length > 0;
    return Object.entries(word.groups).every(
      ([id, value]) => id === 'text' || id === 'reason' || row.body.toLowerCase().includes(value.toLowerCase()),
    );
  });
  const open = fits.filter(({ said }) => !SETTLED[word.proves].some((kind) => said.includes(kind)));
  // Told once more, it is about what was told of last.
  const chosen = open.length > 0 ? onePerItem(open) : fits.slice(0, 1);
  return chosen.map(({ item_id, leg_id, attempt, question, far, said }) => ({
    itemId: item_id,
    legId: leg_id,
    attempt,
    values: question?.values ?? (far === null ? {} : { to: far }),
    said,
  }));
}

/** Of an item that went to a service twice the later transmission. */
function onePerItem(rows: readonly Row[]): Row[] {
  const seen = new Set<string>();
  return rows.filter(({ item_id }) => !seen.has(item_id) && seen.add(item_id));
}
