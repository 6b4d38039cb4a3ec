import type { EntityManager } from 'typeorm';
import type { Bearer } from './bearer';
import { rowsOf } from '../store/database';
import { appendEvents, transmissionChanged } from '../store/events';
import { addEvidence } from '../store/evidence';
import { budgetOf, spendAirTime } from './account';
import { outgoing, type DueLeg, type OutboxContext } from './due';
import { release } from './write';

/** How long a process may hold a leg between intent and record before another takes it up; it is renewed while it works. */
export const LEASE_MS = 15_000;
/** A leg due further ahead than this was scheduled by a clock that has since been set back. */
const LONGEST_WAIT_MS = 4 * 3600_000;
/** An answer that waited longer tells nothing new: the other side has asked again, or given up. (Common practice, no source.) */
export const STALE_ANSWER_MS = 90_000;
/** One station alone gets no more than this share of the air time that is set aside for repeating. */
const REPEATED_SHARE = 0.5;
/** Of automatic answers this many are looked at for one that the budget allows. */
const MOST_LOOKED_AT = 60;

const DUE = `l.next_at is not null and l.held is null and (l.next_at <= $2 or l.next_at > $3)
  and (l.lease_until is null or l.lease_until < $2 or l.lease_until > $4)`;
/** A call for help of our own belongs to no item. */
const PRECEDENCE = `coalesce(i.precedence, case when l.detail ? 'emergency' then 'emergency' else 'routine' end)`;
const COLUMNS = `l.id, l.item_id, l.role, l.bearer_id, l.from_call, l.to_call, l.path, l.info, l.acknowledgement_asked, l.policy, l.detail,
  coalesce(l.detail->>'number', i.number) as number, ${PRECEDENCE} as precedence`;
const URGENCY = `case ${PRECEDENCE} when 'emergency' then 0 when 'priority' then 1 when 'welfare' then 2 else 3 end`;

/** Among those that are equally urgent, what somebody set a deadline for goes first; what goes out by itself ends soon, and hurries nobody. */
const DEADLINE = `case when l.item_id is not null then (l.policy->>'until')::timestamptz end nulls last`;

const dueParameters = (id: string, now: number) => [
  id,
  new Date(now),
  new Date(now + LONGEST_WAIT_MS),
  new Date(now + 2 * LEASE_MS),
];

/** Whether anything waits for a bearer, whose channel may be taken. */
export async function somethingIsDue(context: OutboxContext, id: string): Promise<boolean> {
  const rows = await rowsOf(
    context.database,
    `select 1 from leg l where l.bearer_id = $1 and ${DUE} limit 1`,
    dueParameters(id, context.now()),
  );
  return rows.length > 0;
}

/** Whether a text waits for a bearer that is worth holding up a connection for. */
export async function urgentIsDue(context: OutboxContext, id: string): Promise<boolean> {
  const rows = await rowsOf(
    context.database,
    `select 1 from leg l left join item i on i.id = l.item_id
     where l.bearer_id = $1 and ${DUE} and l.role = 'convey' and ${PRECEDENCE} in ('emergency', 'priority') limit 1`,
    dueParameters(id, context.now()),
  );
  return rows.length > 0;
}

/**
 * Takes a lease on the leg that should go out next by a bearer: the urgent first, then answers – the newest first, as far as the budget
 * of automatic air time goes – then texts by their deadline, and in their order. With `urgentOnly` the channel is taken, and only an emergency goes in between.
 */
export async function claim(
  context: OutboxContext,
  id: string,
  bearer: Bearer,
  urgentOnly: boolean,
): Promise<DueLeg | null> {
  const now = context.now();
  await leaveOutStale(context, id, now);
  return context.database.transaction(async (manager) => {
    const [text] = await rowsOf<DueLeg>(
      manager,
      `select ${COLUMNS} from leg l left join item i on i.id = l.item_id
       where l.bearer_id = $1 and ${DUE} and l.role = 'convey' and (not $5 or ${PRECEDENCE} = 'emergency')
       order by ${URGENCY}, ${DEADLINE}, l.next_at limit 1 for update of l skip locked`,
      [...dueParameters(id, now), urgentOnly],
    );
    const urgent = text && ['emergency', 'priority'].includes(text.precedence);
    const chosen = urgent || urgentOnly ? text : ((await affordable(context, manager, id, bearer, now)) ?? text);
    if (!chosen) return null;
    await manager.query('update leg set lease_owner = $2, lease_until = $3 where id = $1', [
      chosen.id,
      context.owner,
      new Date(now + LEASE_MS),
    ]);
    return chosen;
  });
}

/** The answer that the budget allows, its air time taken from the account. */
async function affordable(
  context: OutboxContext,
  manager: EntityManager,
  id: string,
  bearer: Bearer,
  now: number,
): Promise<DueLeg | null> {
  const answers = await rowsOf<DueLeg>(
    manager,
    `select ${COLUMNS} from leg l left join item i on i.id = l.item_id
     where l.bearer_id = $1 and ${DUE} and l.role <> 'convey'
     order by ${URGENCY}, l.created_at desc, l.id limit ${MOST_LOOKED_AT} for update of l skip locked`,
    dueParameters(id, now),
  );
  if (answers.length === 0) return null;
  if (!bearer.air) return answers[0]!;
  const settings = await context.settings();
  const budget = budgetOf(settings);
  const empty = new Set<string>();
  for (const leg of answers) {
    if (leg.role === 'convey' || empty.has(leg.to_call)) continue;
    const encoded = bearer.encode?.(outgoing(leg), 1);
    // What cannot be built costs nothing; it is refused for that reason further on.
    if (!encoded?.ok) return leg;
    // What is repeated for others has an account of its own.
    const { repeating } = settings;
    const repeats = leg.detail?.repeats !== undefined;
    if (repeats && !repeating) continue;
    const spending = {
      channel: repeats ? `${bearer.air.channel()}, repeating` : bearer.air.channel(),
      ms: bearer.air.ms(encoded.value.frame),
      what: leg.role,
      askedBy: leg.to_call,
    };
    const ownBudget = {
      ...budget,
      channelMs: repeating ? repeating.airS * 1000 : 0,
      stationMs: REPEATED_SHARE * (repeating?.airS ?? 0) * 1000,
    };
    if (await spendAirTime(manager, spending, repeats ? ownBudget : budget, now)) return leg;
    empty.add(leg.to_call);
  }
  return null;
}

/** Answers that came too late, for want of air time or because the transmitter was locked, are told as left out. */
async function leaveOutStale(context: OutboxContext, id: string, now: number): Promise<void> {
  const where = `bearer_id = $1 and role <> 'convey' and next_at is not null
    and (created_at < $2 or (policy->>'until')::timestamptz <= $3) and (lease_until is null or lease_until < $3)`;
  const stale = [id, new Date(now - STALE_ANSWER_MS), new Date(now)];
  if ((await rowsOf(context.database, `select 1 from leg where ${where} limit 1`, stale)).length === 0) return;
  await context.database.transaction(async (manager) => {
    const legs = await rowsOf<LeftOut>(
      manager,
      `select id, item_id, role, from_call, to_call, policy, detail, created_at from leg where ${where} limit 500 for update skip locked`,
      stale,
    );
    for (const leg of legs) {
      await addEvidence(manager, {
        key: `left out:${leg.id}`,
        itemId: leg.item_id,
        legId: leg.id,
        kind: 'left out',
        at: new Date(now),
        bearer: id,
        note: whyLeftOut(leg),
      });
      await release(manager, leg.id, null);
    }
    const changed = new Map(legs.map((leg) => [leg.item_id ?? leg.id, transmissionChanged(leg)]));
    await appendEvents(manager, [...changed.values()], new Date(now));
  });
}

type LeftOut = Pick<DueLeg, 'id' | 'item_id' | 'role' | 'from_call' | 'to_call' | 'policy' | 'detail'> & {
  readonly created_at: Date;
};

function whyLeftOut(leg: LeftOut): string {
  const endMs = leg.policy.until ? Date.parse(leg.policy.until) : Infinity;
  const withinS = Math.round(Math.min(STALE_ANSWER_MS, endMs - leg.created_at.getTime()) / 1000);
  const what = leg.detail?.repeats
    ? `a packet of ${leg.from_call} was not repeated`
    : `${ANSWER_WORDS[leg.role]} to ${leg.to_call} was not sent`;
  return `${what}: it could not go out within ${withinS} s, for want of air time or because nothing might go out`;
}

const ANSWER_WORDS: Readonly<Record<DueLeg['role'], string>> = {
  convey: 'the text',
  acknowledge: 'the acknowledgement',
  reject: 'the rejection',
  answer: 'the answer',
};
