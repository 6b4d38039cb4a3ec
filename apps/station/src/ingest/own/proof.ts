import { heardByRadio, isQConstruct, REPEAT_WINDOW_MS, wrappedProperly } from '@tombolo/core';
import { packetKinds } from '@tombolo/contract';
import { rowsOf, type Queries } from '../../store/database';
import type { Stored } from '../store-heard';

/** How long after a try an acknowledgement of it may still come. (Common practice, no source.) */
export const PROOF_WINDOW_MS = REPEAT_WINDOW_MS;

/** The try that an answer is about. */
export interface Answered {
  readonly item_id: string;
  readonly leg_id: string;
  readonly attempt: number;
}

export interface AnswerTo {
  /** Who answers, and so to whom it went. */
  readonly from: string;
  readonly number: string;
}

/**
 * The try that an acknowledgement or refusal can be about: the last one of that number to that station which went out before it was
 * heard and not too long ago, over a bearer that carries packets, and by a road on which an answer can come back. Null proves nothing.
 */
export async function answeredTry(queries: Queries, row: Stored, { from, number }: AnswerTo): Promise<Answered | null> {
  const { heard, outer } = row.understood;
  if (!outer || !wrappedProperly(outer)) return null;
  const heardAt = new Date(heard.heardAtMs);
  const [found] = await rowsOf<Answered & { gated: boolean }>(
    queries,
    `select i.id as item_id, l.id as leg_id, a.n as attempt,
            exists (select 1 from evidence e where e.leg_id = l.id and e.kind = 'relayed' and e.road->>'how' = 'internet') as gated
     from item i join leg l on l.item_id = i.id and l.role = 'convey' join attempt a on a.leg_id = l.id
     left join bearer b on b.id = l.bearer_id
     where ((i.direction = 'out' and i.number = $1 and i.addressee = $2)
         or (l.detail->>'number' = $1 and l.to_call = $2))
       and (b.id is null or b.config->>'kind' = any($5::text[]))
       and a.intended_at <= $3 and a.intended_at > $4
     order by a.intended_at desc limit 1`,
    [number, from, heardAt, new Date(heard.heardAtMs - PROOF_WINDOW_MS), packetKinds()],
  );
  if (!found) return null;
  return cameBack(row, found.gated) ? found : null;
}

/** Over a feed an answer counts when a gateway heard it by radio, or when our text had reached the internet as well. */
function cameBack({ understood: { heard, outer } }: Stored, gated: boolean): boolean {
  if (heard.form !== 'line' || heard.importId !== null) return true;
  const mark = outer!.path.find(({ call }) => isQConstruct(call))?.call;
  return gated || (mark !== undefined && heardByRadio(mark));
}

/** Whether any text with that number ever went to that station: if none did, the words are no acknowledgement. */
export async function everSent(queries: Queries, { from, number }: AnswerTo): Promise<boolean> {
  const rows = await rowsOf(
    queries,
    `select 1 from item i join leg l on l.item_id = i.id and l.role = 'convey'
     where ((i.direction = 'out' and i.number = $1 and i.addressee = $2)
         or (l.detail->>'number' = $1 and l.to_call = $2)) limit 1`,
    [number, from],
  );
  return rows.length > 0;
}
