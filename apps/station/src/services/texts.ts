import { readPattern, whichAnswers } from '@tombolo/core';
import { TEXTS_TRIED, type ServiceText, type ServiceTried } from '@tombolo/contract';
import { ProblemError } from '../problem-error';
import { rowsOf, type Queries } from '../store/database';
import { serviceAt } from './directory';

const textsFrom = (queries: Queries, address: string) =>
  rowsOf<{ id: string; at: Date; body: string; asked: Record<string, string> | null }>(
    queries,
    `select t.*, (select l.detail->'service'->'values' from leg l
         where l.role = 'convey' and l.to_call = $1 and l.created_at <= t.at and l.detail ? 'service'
         order by l.created_at desc limit 1) as asked
     from (select id, created_at as at, body from item where direction = 'in' and sender = $1 and kind = 'text' and not refused
           order by created_at desc limit $2) t order by t.at desc`,
    [address, TEXTS_TRIED],
  );

/** Texts that came from an address lately, newest first, and which pattern of its service knows each. */
export async function serviceTexts(queries: Queries, address: string): Promise<ServiceText[]> {
  const rows = await textsFrom(queries, address);
  const service = await serviceAt(queries, address);
  const known = whichAnswers(
    service?.answers ?? [],
    rows.map(({ body }) => body),
  );
  return rows.map(({ id, at, body, asked }, n) => ({
    id,
    at: at.toISOString(),
    text: body,
    known: known[n] ?? null,
    asked,
  }));
}

/** Which of these texts a pattern would know. */
export async function tryPattern(queries: Queries, address: string, source: string): Promise<ServiceTried> {
  const read = readPattern(source);
  if (!read.ok)
    throw new ProblemError(422, 'pattern', 'That is no pattern', `It cannot be used: ${read.error.reason}.`);
  const rows = await textsFrom(queries, address);
  return { matches: rows.filter(({ body }) => read.value.test(body)).map(({ id }) => id), of: rows.length };
}
