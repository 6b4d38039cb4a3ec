import type { Settings } from '@tombolo/contract';
import { readAskedAgain } from '@tombolo/core';
import { rowsOf, type Queries } from '../store/database';
import { addEvidence } from '../store/evidence';
import type { LegDetail } from '../store/entities';
import { queueLeg } from '../transmissions/queue-leg';
import { hasten, settleItem } from '../transmissions/write';

/** A part is asked for within that time, or not any more. */
const WITHIN_MS = 24 * 3_600_000;
/** So often a part is sent again because somebody asks: whoever loops asks for ever. */
const MOST_TIMES = 3;
/** What somebody asks for takes as long on the air: it can be about nothing that was sent later. */
const ASKING_TAKES_MS = 1000;
/** Nobody here presses a key for it: so many go in ten minutes because one asks, or all do, whatever call they give. */
const WINDOW_MS = 600_000;
const MOST_IN_WINDOW = { ofOne: 9, ofAll: 27 } as const;

interface Wanted {
  readonly id: string;
  readonly sender: string;
  readonly addressee: string;
  readonly acknowledgement_asked: boolean;
  readonly bearer_id: string;
  readonly from_call: string;
  readonly to_call: string;
  readonly path: string[];
  readonly info: Buffer;
  readonly detail: LegDetail | null;
  readonly tried: boolean;
  /** A try of it is due or being made: nobody has to ask for it. */
  readonly due: boolean;
  /** It has tries left, and waits for the next one. */
  readonly waits: boolean;
  readonly cancelled: boolean;
  readonly times: number;
}

/**
 * Sends again what somebody asks for of a text of ours in parts. Gives the first item that was meant; null when the text asks for nothing that we
 * sent to them.
 */
export async function sendAskedAgain(
  queries: Queries,
  asked: {
    readonly by: string;
    readonly text: string;
    readonly at: Date;
    /** What was heard, and the packet that it came in. */
    readonly raw: string;
    readonly packetId: string | null;
  },
  settings: Pick<Settings, 'retry'>,
  touched: Set<string>,
): Promise<string | null> {
  const again = readAskedAgain(asked.text);
  if (!again) return null;
  let first: string | null = null;
  for (const n of again.wanted) {
    const [part] = await rowsOf<Wanted>(
      queries,
      `select i.id, i.sender, i.addressee, i.acknowledgement_asked, l.bearer_id, l.from_call, l.to_call, l.path, l.info, l.detail, w.*,
         exists (select 1 from evidence e where e.item_id = i.id and e.kind = 'cancelled' and not exists
           (select 1 from evidence q where q.item_id = i.id and q.kind = 'queued' and q.at > e.at)) as cancelled,
         (select count(*)::int from evidence e where e.item_id = i.id and e.key like 'asked again:%' and e.note is null) as times
       from item i join leg l on l.item_id = i.id and l.role = 'convey'
       cross join lateral (
         select coalesce(bool_or(made > 0), false) as tried,
           coalesce(bool_or(next_at is not null and made < tries), false) as waits,
           coalesce(bool_or(lease_until > $3 and (open or made < tries) or last_at > $5
             or next_at is not null and (made = 0 or made < tries and next_at <= $3)), false) as due
         from (select next_at, lease_until, coalesce((policy->>'tries')::int, 0) as tries,
             (select count(*) from attempt a where a.leg_id = leg.id) as made,
             (select max(intended_at) from attempt a where a.leg_id = leg.id) as last_at,
             exists (select 1 from attempt a where a.leg_id = leg.id and not exists (select 1 from evidence e
               where e.item_id = i.id and e.leg_id = leg.id and e.attempt = a.n and e.kind in ('sent', 'interrupted', 'not taken'))) as open
           from leg where item_id = i.id and role = 'convey') each_leg) w
       where i.direction = 'out' and i.addressee = $1 and i.created_at between $2 and $3
         and i.body ~ $4
       order by i.created_at desc, l.created_at desc limit 1`,
      [
        asked.by,
        new Date(asked.at.getTime() - WITHIN_MS),
        asked.at,
        `^\\(${n}/${again.of}${again.set}\\+?\\) `,
        new Date(asked.at.getTime() - ASKING_TAKES_MS),
      ],
    );
    if (!part) continue;
    first ??= part.id;
    const left = await whyNotSent(queries, part, asked);
    const isNew = await addEvidence(queries, {
      key: `asked again:${part.id}:${asked.packetId ?? asked.at.toISOString()}`,
      itemId: part.id,
      legId: null,
      kind: 'asked again',
      at: asked.at,
      bearer: part.bearer_id,
      by: asked.by,
      raw: asked.raw,
      packetId: asked.packetId,
      note: left,
    });
    touched.add(part.id);
    if (!isNew || left !== null) continue;
    if (part.waits) {
      await hasten(queries, part.id, asked.at);
      continue;
    }
    // What only waited to be heard repeated has its answer now.
    await settleItem(queries, part.id, true);
    await queueLeg(
      queries,
      {
        id: part.id,
        sender: part.from_call,
        addressee: part.to_call,
        acknowledgementAsked: part.acknowledgement_asked,
      },
      {
        bearerId: part.bearer_id,
        path: part.path,
        info: part.info,
        policy: settings.retry,
        detail: part.detail,
        note: `again, because ${asked.by} asks for it`,
      },
      asked.at,
    );
  }
  return first;
}

/**
 * Why nothing is sent because of it; null for what is. Only what is sent counts against the limits: whoever asks for a part before its turn
 * has come would else be refused it when it is lost.
 */
async function whyNotSent(
  queries: Queries,
  part: Wanted,
  asked: { readonly by: string; readonly at: Date },
): Promise<string | null> {
  if (part.cancelled) return 'not sent: it was cancelled';
  if (part.due) return part.tried ? 'it was being sent already' : 'it had not been sent yet';
  if (part.times >= MOST_TIMES) return `not sent: it was sent again ${MOST_TIMES} times already`;
  return (await tooMuch(queries, asked)) ? 'not sent: too much was asked for again in the last ten minutes' : null;
}

/** Whether as much went out because somebody asked as may. */
async function tooMuch(queries: Queries, { by, at }: { readonly by: string; readonly at: Date }): Promise<boolean> {
  const [asked] = await rowsOf<{ one: number; all: number }>(
    queries,
    `select count(*) filter (where by_whom = $1)::int as one, count(*)::int as all from evidence
     where kind = 'asked again' and leg_id is null and key like 'asked again:%' and note is null and at > $2 and at <= $3`,
    [by, new Date(at.getTime() - WINDOW_MS), at],
  );
  return asked!.one >= MOST_IN_WINDOW.ofOne || asked!.all >= MOST_IN_WINDOW.ofAll;
}
