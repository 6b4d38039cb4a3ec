import { randomUUID } from 'node:crypto';
import {
  ownStation,
  personKnownAs,
  TRIED_HERE,
  type Person,
  type PlannedWay,
  type Settings,
  type WaysView,
} from '@tombolo/contract';
import { counted, readPart } from '@tombolo/core';
import type { EntityManager } from 'typeorm';
import { listPeople } from '../people/people';
import type { PlanningContext } from '../planning/context';
import { notePredictions } from '../planning/predictions';
import { proposeWays } from '../planning/propose';
import { ProblemError } from '../problem-error';
import { rowsOf, type Queries } from '../store/database';
import type { ItemRow } from '../store/entities';
import { appendEvents } from '../store/events';
import { addEvidence } from '../store/evidence';
import { holdItem, settleItem } from '../transmissions/write';
import { canGoOut, inTurn, LEAST_TRIES, MOST_LOOKED_FOR, SURER, type ByRuleContext } from './by-rule';
import { queueItem } from './write/queue';

interface Unanswered {
  readonly id: string;
  readonly addressee: string;
  readonly body: string;
  readonly precedence: ItemRow['precedence'];
  readonly bearer_ids: string[];
  /** Its deadline. */
  readonly until: string | null;
  /** To whom the same was written later. */
  readonly again_to: string[];
}

/** What is older is left to the operator, who may have said it otherwise by now. */
const NOT_OLDER_MS = 24 * 3600_000;
const MINUTE_MS = 60_000;

/** Texts of ours that nobody took or answered, and that were not written for another one already. */
const UNANSWERED = `
  select i.id, i.addressee, i.body, i.precedence, array_agg(distinct l.bearer_id) as bearer_ids, min(l.policy->>'until') as until,
    array(select a.addressee from item a where a.direction = 'out' and a.kind = 'text' and a.created_at > i.created_at and a.body = i.body) as again_to
  from item i join leg l on l.item_id = i.id and l.role = 'convey'
  where i.direction = 'out' and i.kind = 'text' and i.created_at > $1 and i.created_at <= $2 and ($3::uuid is null or i.id = $3)
    and not exists (select 1 from evidence e where e.item_id = i.id
      and e.kind in ('accepted', 'handed on', 'delivered', 'answered', 'refused', 'cancelled', 'overdue'))
    and not exists (select 1 from evidence e where e.key = 'other bearer:' || i.id)
    and (select count(*) from evidence e where e.item_id = i.id and e.kind = 'sent') >= ${LEAST_TRIES}
  group by i.id
  having bool_and(l.acknowledgement_asked and l.held is null and l.bearer_id is not null
    and (l.detail is null or not l.detail ?| array['relay', 'service']) and (l.lease_until is null or l.lease_until < $4))
  order by i.created_at desc, i.id limit ${MOST_LOOKED_FOR}`;

/**
 * Where the operator has said so, a text that nobody answers is written again for another bearer to the same person, once, where that one is
 * clearly surer and nothing stands against it. The first is no longer tried then, nor is the second once the first is answered after all. They
 * are two texts: no number is shared between bearers.
 */
export async function otherBearerTurn(context: ByRuleContext): Promise<undefined> {
  const { database } = context;
  const settings = await context.settings();
  await stopWhatIsNeededNoMore(context, ownStation(settings));
  const minutes = settings.otherBearerMin;
  if (minutes === null || !canGoOut(settings)) return undefined;
  const unanswered = await find(context, database, minutes, null);
  if (unanswered.length === 0) return undefined;
  const people = await listPeople(database);
  // One of a set means nothing without the others, which may have arrived.
  const lone = unanswered.filter((text) => readPart(text.body) === null && !saidAgain(text, people));
  const planning = await context.planning();
  const written: string[] = [];
  for (const text of inTurn(lone, context.now())) {
    const way = await surerWay(planning, text);
    const id = way && (await writeAgain(context, settings, text, way, minutes));
    if (id) written.push(id);
  }
  if (written.length > 0) {
    await notePredictions(database, planning, written);
    context.wakeOutbox();
  }
  return undefined;
}

const find = ({ now }: ByRuleContext, queries: Queries, minutes: number, id: string | null): Promise<Unanswered[]> =>
  rowsOf<Unanswered>(queries, UNANSWERED, [
    new Date(now() - NOT_OLDER_MS),
    new Date(now() - minutes * MINUTE_MS),
    id,
    new Date(now()),
  ]);

/** Whether the operator said the same to the same person again, by whatever address: that is left to them. */
function saidAgain({ addressee, again_to: againTo }: Unanswered, people: readonly Person[]): boolean {
  const person = personKnownAs(addressee, people);
  return againTo.some((to) => to === addressee || (person !== undefined && personKnownAs(to, people) === person));
}

/** The surest way of another bearer that sends by itself, where it is clearly surer than anything by those that were tried. */
async function surerWay(planning: PlanningContext, text: Unanswered): Promise<PlannedWay | null> {
  const leftMs = text.until === null ? null : Date.parse(text.until) - planning.nowMs;
  if (leftMs !== null && leftMs < MINUTE_MS) return null;
  const view = await proposeWays(planning, {
    to: text.addressee,
    text: text.body,
    precedence: text.precedence,
    withinMin: leftMs === null ? null : Math.floor(leftMs / MINUTE_MS),
  });
  return view.person === null ? null : surerOf(view, text.bearer_ids);
}

function surerOf({ ways }: WaysView, triedBearers: readonly string[]): PlannedWay | null {
  const wasTried = ({ send }: PlannedWay) => triedBearers.includes(send.way.bearerId);
  const byChance = (a: PlannedWay, b: PlannedWay) => b.arrives.chance - a.arrives.chance;
  const tried = ways.filter(wasTried).sort(byChance)[0]?.arrives.chance ?? 0;
  const [best] = ways
    .filter(
      (way) =>
        !wasTried(way) &&
        TRIED_HERE.has(way.send.way.by) &&
        way.send.command === null &&
        // Somebody is asked for a favour by the operator, not by a rule.
        way.send.broughtBy === null &&
        !way.send.inParts &&
        way.cautions.length === 0,
    )
    .sort(byChance);
  return best && best.arrives.chance >= tried + SURER ? best : null;
}

/** Gives the identifier of the new text; null where the first was answered, cancelled or is on its way to the air meanwhile. */
async function writeAgain(
  context: ByRuleContext,
  settings: Settings,
  text: Unanswered,
  { send, title }: PlannedWay,
  minutes: number,
): Promise<string | null> {
  const id = randomUUID();
  const at = new Date(context.now());
  try {
    return await context.database.transaction(async (manager) => {
      await holdItem(manager, text.id);
      if ((await find(context, manager, minutes, text.id)).length === 0) return null;
      await queueItem(
        manager,
        {
          id,
          addressee: { is: 'address', address: send.to },
          content: { is: 'text', body: text.body, inParts: false },
          way: send.way,
          precedence: text.precedence,
          deadline: text.until,
          answers: null,
        },
        settings,
        at,
        `by your rule: ${counted(minutes, 'minute')} without an answer to ${text.addressee}, where it is no longer tried; both may arrive`,
      );
      // Under the key of the new text: that one is not written once more.
      const note = `by your rule: it goes on by another bearer, ${title}; both may arrive`;
      await stopTrying(manager, text.id, `other bearer:${id}`, note, { at, by: ownStation(settings) });
      return id;
    });
  } catch (error) {
    // It does not fit that way after all: the operator is left with the first, as it was.
    if (error instanceof ProblemError) return null;
    throw error;
  }
}

/** Texts that were written again and are still tried, of which the first was answered after all. */
const NEEDED_NO_MORE = `
  select distinct l.item_id as id from leg l join evidence w on w.key = 'other bearer:' || l.item_id
  where l.next_at is not null and l.role = 'convey' and (l.lease_until is null or l.lease_until < $1)
    and exists (select 1 from evidence e where e.item_id = w.item_id and e.kind in ('delivered', 'answered'))`;

async function stopWhatIsNeededNoMore({ database, now }: ByRuleContext, by: string | null): Promise<void> {
  const at = new Date(now());
  const note = 'the first, by another bearer, was answered after all';
  for (const { id } of await rowsOf<{ id: string }>(database, NEEDED_NO_MORE, [at]))
    await database.transaction(async (manager) => {
      await holdItem(manager, id);
      await stopTrying(manager, id, `not needed:${id}`, note, { at, by });
    });
}

async function stopTrying(
  manager: EntityManager,
  itemId: string,
  key: string,
  note: string,
  { at, by }: { readonly at: Date; readonly by: string | null },
): Promise<void> {
  await settleItem(manager, itemId, false);
  await addEvidence(manager, { key, itemId, legId: null, kind: 'cancelled', at, by, note });
  await appendEvents(manager, [{ type: 'item', data: { id: itemId } }], at);
}
