import type { Settings } from '@tombolo/contract';
import {
  AUTOMATIC_ANSWERS,
  AUTOMATIC_MARK,
  encodeMessage,
  isPerson,
  isWithinHours,
  looksAutomatic,
  minutesOfDay,
  readPart,
} from '@tombolo/core';
import { serviceAt } from '../../services/directory';
import { rowsOf, type Queries } from '../../store/database';
import { queueAutomatic } from '../../transmissions/write';

interface Way {
  readonly own: string;
  readonly bearerId: string;
  readonly path: readonly string[];
  readonly settings: Settings;
  readonly at: Date;
}

/**
 * Tells whoever wrote to us that it came, where the operator wished that: once an hour to one sender, in the hours that were set, and never to an
 * automaton, so that two of them cannot talk for ever. It is no answer of a person: the text still needs somebody.
 */
export async function autoAnswer(
  queries: Queries,
  { sender, text, itemId }: { readonly sender: string; readonly text: string; readonly itemId: string },
  { own, bearerId, path, settings, at }: Way,
): Promise<void> {
  const wanted = settings.autoAnswer;
  // A calm answer would say that no help is needed any more.
  if (!wanted || settings.emergency || !withinHours(wanted.hours, at) || looksAutomatic(text) || !isPerson(sender))
    return;
  // The first part is answered, if at all: the others say nothing new.
  if ((readPart(text)?.n ?? 1) > 1 || (await serviceAt(queries, sender))) return;
  const [before] = await rowsOf<{ sender: number; all: number }>(
    queries,
    `select count(*) filter (where to_call = $1 and created_at > $2)::int as sender, count(*) filter (where created_at > $3)::int as all
     from leg where role = 'answer' and detail ? 'automatic' and created_at > $2`,
    [sender, new Date(at.getTime() - AUTOMATIC_ANSWERS.perSenderEveryMs), new Date(at.getTime() - 3_600_000)],
  );
  if (before!.sender > 0 || before!.all >= AUTOMATIC_ANSWERS.perHour) return;
  const info = encodeMessage({ addressee: sender, text: `${AUTOMATIC_MARK}${wanted.text}` });
  if (!info.ok) return;
  await queueAutomatic(
    queries,
    {
      itemId,
      role: 'answer',
      bearerId,
      fromCall: own,
      toCall: sender,
      path,
      info: info.value,
      policy: { ...settings.retry, tries: 1 },
      detail: { automatic: true },
    },
    at,
  );
}

function withinHours(hours: { readonly from: string; readonly to: string } | null, at: Date): boolean {
  if (!hours) return true;
  const [from, to] = [minutesOfDay(hours.from), minutesOfDay(hours.to)];
  return from !== null && to !== null && isWithinHours(from, to, at.getTime());
}
