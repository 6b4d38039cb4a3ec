import { NO_CORRECTION, WORTH_PER_S } from '@tombolo/core';
import { rowsOf } from '../store/database';
import {
  bearerKind,
  carriageOf,
  locksOf,
  ownStation,
  personKnownAs,
  type BearerView,
  type Person,
  type WaysQuestion,
} from '@tombolo/contract';
import { listPeople } from '../people/people';
import { serviceAt } from '../services/directory';
import { reckonedOnce } from './asked-once';
import { addressesBy, gatewayOf, throughServices, type ThroughService } from './addresses';
import { byMesh } from './by-mesh';
import { boardOf } from './beyond-board';
import { bySession } from './by-other-ways';
import { withCorrection } from './corrections';
import { byPacketRadio, type RadioTo } from './by-packet-radio';
import type { Candidate, Excluded, Holder } from './candidate';
import type { PlanningContext } from './context';
import { hopsAbout } from './hops';
import { meshHops, type MeshNeighbourhood } from './mesh-hops';
import { ownRepeats } from './own-repeats';
import { theirHops } from './their-hops';
import { carriedBy, hopsLeft } from './thought-off';
import { NO_TRIES, sessionsHeld, triedOf, triesIn, triesKey } from './own-tries';

/** One that waits before it holds the channel for about so long. */
const QUEUED_S = 3;

/** Nodes of a mesh that may carry for us: more of them tell hardly more of one way, and every one repeats. */
const MOST_NODES = 12;

export interface Gathered {
  readonly candidates: Candidate[];
  readonly excluded: Excluded[];
}

/** One bearer and one address on it: no other way is asked for. */
export interface Only {
  readonly bearerId: string;
  readonly address: string;
  /** How often it is sent, where that is settled. */
  readonly times?: number;
}

/** What is asked of one bearer that is open. */
interface Asked {
  readonly context: PlanningContext;
  readonly question: WaysQuestion;
  readonly bearer: BearerView;
  readonly addresses: readonly string[];
  readonly services: readonly ThroughService[];
  readonly deadlineS: number | null;
  readonly queueS: number;
  readonly cautions: readonly string[];
  /** How often it is sent, where that is settled. */
  readonly times: number | undefined;
}
type CarriageOf<What> = Extract<ReturnType<typeof carriageOf>, { readonly what: What }>;

/** The crossings over one bearer to somebody, and why there is none. */
export async function gather(
  context: PlanningContext,
  question: WaysQuestion,
  person: Person | null,
  bearer: BearerView,
  into: Gathered,
  only?: Only,
): Promise<void> {
  const carriage = carriageOf(bearer.config);
  if (carriage.what === 'nothing') return;
  const addresses = only ? [only.address] : await addressesBy(context, question.to, person, carriage.what, bearer.id);
  const services = carriage.what === 'packets' && !only ? await throughServices(context, question, person) : [];
  if (addresses.length === 0 && services.length === 0) return;
  const [lock] = locksOf(bearer.config.kind, context.settings);
  const closed = carriedBy(bearer).some((thing) => context.without.has(thing))
    ? { reason: 'It relies on what is thought off.', remedy: 'Think of it as it is.' }
    : !bearer.enabled
      ? { reason: 'It is switched off.', remedy: 'Switch it on under Bearers.' }
      : lock
        ? { reason: lock, remedy: 'Answer this in Settings.' }
        : bearer.state.link === 'down'
          ? {
              reason: bearer.state.reason ?? 'It is not connected.',
              remedy: 'What is sent by it all the same waits until it is connected again.',
            }
          : null;
  if (closed) {
    into.excluded.push({ title: bearer.name, ...closed });
    return;
  }
  const deadlineS = question.withinMin === null ? null : question.withinMin * 60;
  const queueS = bearer.queued * QUEUED_S;
  const cautions = cautionsOf(bearer, person);
  const asked = { context, question, bearer, addresses, services, deadlineS, queueS, cautions, times: only?.times };
  const reckoned: Gathered = { candidates: [], excluded: into.excluded };
  switch (carriage.what) {
    case 'packets':
      await byPackets(asked, carriage, reckoned);
      break;
    case 'texts':
      await byTexts(asked, carriage, reckoned);
      break;
    case 'messages':
    case 'mail':
      await inSessions(asked, carriage, reckoned);
  }
  const correction = context.corrections.get(carriage.what) ?? NO_CORRECTION;
  into.candidates.push(...reckoned.candidates.map((candidate) => withCorrection(candidate, correction)));
}

async function byPackets(
  { context, question, bearer, addresses, services, deadlineS, queueS, cautions, times }: Asked,
  carriage: CarriageOf<'packets'>,
  into: Gathered,
): Promise<void> {
  const { retry, mostTries } = context.settings;
  // What is urgent is not weighed against the channel.
  const isUrgent = question.precedence === 'priority' || question.precedence === 'emergency';
  const own = ownStation(context.settings);
  if (own === null) {
    into.excluded.push({ title: bearer.name, reason: 'Your own call is not set.', remedy: 'Set it in Settings.' });
    return;
  }
  const far = [
    ...addresses.map((to) => ({
      to,
      text: question.text,
      holder: { name: to, beyond: null } as Holder,
      service: null,
    })),
    ...services,
  ];
  const tried = await triedOf(
    context.queries,
    bearer.id,
    far.map(({ to }) => to),
    context.nowMs,
  );
  const repeats = await ownRepeats(context.queries, bearer.id, context.nowMs);
  const triesFor = (byService: boolean) =>
    times !== undefined || byService
      ? { tries: times ?? retry.tries, worthPerS: 0 }
      : isUrgent
        ? { tries: Math.max(retry.tries, mostTries), worthPerS: 0 }
        : { tries: mostTries, worthPerS: WORTH_PER_S };
  for (const { to, text, holder, service } of far) {
    const heardAs = await gatewayOf(context, to);
    if (context.without.has(to) || context.without.has(heardAs)) continue;
    const about = await reckonedOnce(context.queries, `${bearer.id} ${heardAs}`, () =>
      hopsAbout(context.queries, {
        own,
        ownPosition: context.ownPosition,
        to: heardAs,
        nowMs: context.nowMs,
        mapReach: context.mapReach,
        listeningSinceMs: bearer.state.link === 'up' ? Date.parse(bearer.state.since) : null,
      }),
    );
    const neighbourhood = hopsLeft(about, (call) => context.without.has(call));
    // Of a gateway it is not known whether whoever is behind it was there.
    const tries = triesIn(
      tried.filter(({ to_call }) => to_call === to),
      [to],
      context.nowMs,
      heardAs === to ? neighbourhood.habit : null,
    );
    // What is behind a gateway is reached where the gateway is.
    const renamed =
      heardAs === to
        ? neighbourhood
        : { ...neighbourhood, hops: neighbourhood.hops.map((hop) => rename(hop, heardAs, to)) };
    const { candidates, excluded } = byPacketRadio({
      bearerId: bearer.id,
      own,
      to,
      set: heardAs,
      text,
      txDelayMs: carriage.txDelayMs,
      retry,
      ...triesFor(service !== null),
      deadlineS,
      queueS,
      load: bearer.load ?? 0,
      neighbourhood: renamed,
      triesBy: (path) => tries.get(triesKey(to, path)) ?? NO_TRIES,
      repeats,
      theirHops: await theirHops(context.queries, heardAs, context.nowMs),
      holder,
      far: await sortOf(context, to),
      title: service === null ? `Packet radio to ${to}` : `${service.name} by ${to}`,
      how: service === null ? `by packet radio to ${to}` : `by packet radio to ${to}, ${service.name.toLowerCase()}`,
      command: service?.command ?? null,
      cautions: [...cautions, ...(holder.beyond ? [holder.beyond.words] : [])],
    });
    into.candidates.push(...candidates);
    into.excluded.push(...excluded);
  }
}

/** What is known of an address beside how it is reached: a service answers as its directory says; a call that nobody heard or noted may be mistyped. */
async function sortOf({ queries }: PlanningContext, address: string): Promise<RadioTo['far']> {
  if (await serviceAt(queries, address)) return 'service';
  const heard = await rowsOf(queries, 'select 1 from station where call = $1', [address]);
  return heard.length > 0 || personKnownAs(address, await listPeople(queries)) ? 'known' : 'stranger';
}

const rename = <H extends { readonly from: string; readonly to: string }>(hop: H, from: string, to: string): H => ({
  ...hop,
  from: hop.from === from ? to : hop.from,
  to: hop.to === from ? to : hop.to,
});

async function byTexts(
  { context, question, bearer, addresses, deadlineS, queueS }: Asked,
  carriage: CarriageOf<'texts'>,
  into: Gathered,
): Promise<void> {
  const { retry } = context.settings;
  const left = bearer.duty?.mostMs == null ? null : (bearer.duty.mostMs - bearer.duty.usedMs) / 1000;
  const tries = triesIn(await triedOf(context.queries, bearer.id, addresses, context.nowMs), addresses, context.nowMs);
  for (const node of addresses) {
    const [known] = await rowsOf<{ tag: string; hops: number | null }>(
      context.queries,
      'select tag, hops from mesh_node where bearer_id = $1 and node = $2',
      [bearer.id, node],
    );
    if (known && context.without.has(known.tag)) continue;
    const { candidates, excluded } = byMesh({
      bearerId: bearer.id,
      carriage,
      node,
      tag: known?.tag ?? node,
      text: question.text,
      hops: known?.hops ?? null,
      neighbourhood: await nodesLeft(context, bearer, carriage, node),
      retry,
      deadlineS,
      queueS,
      leftOfHourS: left,
      tries: tries.get(triesKey(node, [])) ?? NO_TRIES,
    });
    into.candidates.push(...candidates);
    into.excluded.push(...excluded);
  }
}

/** Who hears whom about a node, without those that are thought off. */
async function nodesLeft(
  context: PlanningContext,
  bearer: BearerView,
  carriage: CarriageOf<'texts'>,
  addressee: string,
): Promise<MeshNeighbourhood | null> {
  const about = await meshHops(context, bearer, carriage, { tags: [], addressee, most: MOST_NODES });
  const off = new Set(about?.nodes.filter(({ tag }) => context.without.has(tag)).map(({ node }) => node));
  return about && hopsLeft(about, (node) => off.has(node));
}

async function inSessions(
  { context, question, bearer, addresses, deadlineS, cautions }: Asked,
  carriage: CarriageOf<'messages' | 'mail'>,
  into: Gathered,
): Promise<void> {
  const { retry } = context.settings;
  const held = await sessionsHeld(context.queries, bearer.id, context.nowMs);
  for (const to of addresses) {
    const home = carriage.what === 'messages' ? boardOf(to) : null;
    if (home !== null && context.without.has(home)) continue;
    const candidate = bySession({
      bearerId: bearer.id,
      bearerName: bearer.name,
      carriage,
      to,
      text: question.text,
      retry,
      deadlineS,
      held,
      nowMs: context.nowMs,
    });
    into.candidates.push({ ...candidate, cautions: [...cautions, ...candidate.cautions] });
  }
}

/** What stands against it although it is not forbidden here. */
export function cautionsOf(bearer: BearerView, person: Person | null): string[] {
  if (!person || person.licensed || !bearerKind(bearer.config.kind).amateurBand) return [];
  return [
    person.agreement === ''
      ? `${person.name} has no licence: look up what your rules say of traffic for others. No agreement is noted.`
      : `${person.name} has no licence: look up what your rules say of traffic for others. Agreed: ${person.agreement}`,
  ];
}
