import { counted, type RetryPolicy } from '@tombolo/core';
import type { PlanningContext } from '../planning/context';
import { leastOfSurest } from '../planning/nearly-surest';
import { notePredictions } from '../planning/predictions';
import { crossingsTo } from '../planning/propose';
import { rowsOf } from '../store/database';
import type { LegDetail } from '../store/entities';
import { queueLeg } from '../transmissions/queue-leg';
import { holdItem, settle } from '../transmissions/write';
import { canGoOut, inTurn, LEAST_TRIES, MOST_LOOKED_FOR, SURER, type ByRuleContext } from './by-rule';

interface Silent {
  readonly id: string;
  readonly item_id: string;
  readonly bearer_id: string;
  readonly from_call: string;
  readonly to_call: string;
  readonly path: string[];
  readonly info: Buffer;
  readonly policy: RetryPolicy;
  readonly detail: LegDetail | null;
  readonly body: string;
}

/**
 * Where the operator has said so, a text by packet radio that is tried and not answered goes on by a path that is clearly surer, once: the
 * first is no longer tried then, and the number stays, so that whoever gets both shows one.
 */
export async function otherPathTurn(context: ByRuleContext): Promise<undefined> {
  const { database, now } = context;
  const settings = await context.settings();
  const minutes = settings.otherPathMin;
  if (minutes === null || !canGoOut(settings)) return undefined;
  const silent = await rowsOf<Silent>(
    database,
    `select l.id, l.item_id, l.bearer_id, l.from_call, l.to_call, l.path, l.info, l.policy, l.detail, i.body
     from leg l join item i on i.id = l.item_id
     where i.direction = 'out' and i.kind = 'text' and l.role = 'convey' and l.acknowledgement_asked
       and l.next_at is not null and l.held is null and l.bearer_id is not null and l.created_at <= $1
       and (l.detail is null or not l.detail ?| array['relay', 'service', 'node'])
       and (select count(*) from evidence e where e.leg_id = l.id and e.kind = 'sent') >= ${LEAST_TRIES}
       and not exists (select 1 from leg o where o.item_id = l.item_id and o.role = 'convey' and o.id <> l.id)
     order by l.created_at, l.id limit ${MOST_LOOKED_FOR}`,
    [new Date(now() - minutes * 60_000)],
  );
  if (silent.length === 0) return undefined;
  const planning = await context.planning();
  const changed: string[] = [];
  for (const leg of inTurn(silent, now())) {
    const path = await surerPath(planning, leg);
    if (path && (await goOnBy(context, leg, path, minutes))) changed.push(leg.item_id);
  }
  if (changed.length > 0) {
    await notePredictions(database, planning, changed);
    context.wakeOutbox();
  }
  return undefined;
}

/** Of the other paths that are nearly the surest the one that takes least of the channel, where it is clearly surer now than the one that is tried. */
async function surerPath(
  planning: PlanningContext,
  { bearer_id: bearerId, to_call: to, path, body }: Silent,
): Promise<string[] | null> {
  const candidates = await crossingsTo(
    planning,
    { to, text: body, precedence: 'routine', withinMin: null },
    { bearerId, address: to },
  );
  const paths = candidates.flatMap(({ send: { way }, arrives: { chance }, airS }) =>
    way.by === 'packets' ? [{ path: way.path, chance, airS }] : [],
  );
  const tried = paths.find((one) => one.path.join() === path.join())?.chance ?? 0;
  const best = leastOfSurest(
    paths.filter((one) => one.path.join() !== path.join()),
    (one) => one,
  );
  return best && best.chance >= tried + SURER ? best.path : null;
}

const goOnBy = ({ database, now }: ByRuleContext, leg: Silent, path: string[], minutes: number): Promise<boolean> =>
  database.transaction(async (manager) => {
    const at = new Date(now());
    await holdItem(manager, leg.item_id);
    // It may have been answered, cancelled or tried again meanwhile, or be on its way to the air just now.
    const still = await rowsOf(
      manager,
      `select 1 from leg l where l.id = $1 and l.next_at is not null and l.held is null and (l.lease_until is null or l.lease_until < $2)
         and not exists (select 1 from leg o where o.item_id = l.item_id and o.role = 'convey' and o.id <> l.id)`,
      [leg.id, at],
    );
    if (still.length === 0) return false;
    await settle(manager, leg.id);
    await queueLeg(
      manager,
      { id: leg.item_id, sender: leg.from_call, addressee: leg.to_call, acknowledgementAsked: true },
      {
        bearerId: leg.bearer_id,
        path,
        info: leg.info,
        policy: leg.policy,
        detail: leg.detail,
        note: `${path.length > 0 ? `path ${path.join(',')}` : 'no digipeater'}, by your rule: ${counted(minutes, 'minute')} without an answer by ${leg.path.length > 0 ? leg.path.join(',') : 'no digipeater'}, which is no longer tried; should both arrive, the number is the same`,
      },
      at,
    );
    return true;
  });
