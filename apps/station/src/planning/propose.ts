import {
  across,
  chanceBy,
  expectedS,
  explainWay,
  findWays,
  ninetyS,
  parseNodeNumber,
  parseStationCall,
  readField,
  type FoundWay,
  type Position,
} from '@tombolo/core';
import {
  ADDRESS_OF_WAY,
  addressesOf,
  bearerKind,
  carriageOf,
  locksOf,
  ownStation,
  personKnownAs,
  VIRTUES,
  type AddressSort,
  type BearerView,
  type Person,
  type PlannedWay,
  type Settings,
  type WaysQuestion,
  type WaysView,
} from '@tombolo/contract';
import { listPeople } from '../people/people';
import { listServices, serviceAt } from '../services/directory';
import { reachesPeople } from '../services/reaches-people';
import { rowsOf, type Queries } from '../store/database';
import { BEYOND, byMesh, bySession } from './by-other-ways';
import { byPacketRadio } from './by-packet-radio';
import { crossingsOf, FAR, US, type Candidate, type Excluded, type Holder } from './candidate';
import { hopsAbout } from './hops';
import type { MapReach } from './map-reach';
import { ownRepeats } from './own-repeats';
import { NO_TRIES, ownTries, sessionsHeld, triesKey } from './own-tries';

export interface PlanningContext {
  readonly queries: Queries;
  readonly settings: Settings;
  readonly ownPosition: Position | null;
  readonly bearers: readonly BearerView[];
  readonly mapReach: MapReach;
  readonly nowMs: number;
}

/** Where no deadline is given: what comes later than a day does not help. */
const HORIZON_S = 24 * 3600;
/** More are not told apart. */
const MOST_WAYS = 5;
/** Ways whose chances differ by less are equally sure, for what is known. */
const NEARLY = 0.02;
/** One that waits before it holds the channel for about so long. */
const QUEUED_S = 3;

interface Gathered {
  readonly candidates: Candidate[];
  readonly excluded: Excluded[];
}

/** One bearer and one address on it: no other way is asked for. */
export interface Only {
  readonly bearerId: string;
  readonly address: string;
}

/** What the crossings over one bearer to one address come to. */
export async function crossingsTo(
  context: PlanningContext,
  question: WaysQuestion,
  only: Only,
): Promise<readonly Candidate[]> {
  const gathered: Gathered = { candidates: [], excluded: [] };
  for (const bearer of context.bearers)
    if (bearer.id === only.bearerId) await gather(context, question, null, bearer, gathered, only);
  return gathered.candidates;
}

/** The ways to somebody, by everything that could carry it. Nothing is sent. */
export async function proposeWays(context: PlanningContext, question: WaysQuestion): Promise<WaysView> {
  const people = await listPeople(context.queries);
  const person = personKnownAs(question.to, people) ?? null;
  const gathered: Gathered = { candidates: [], excluded: [] };
  for (const bearer of context.bearers) await gather(context, question, person, bearer, gathered);
  if (gathered.candidates.length === 0 && gathered.excluded.length === 0)
    gathered.excluded.push({
      title: question.to,
      reason: 'Nobody of that name is on the list of people, and it is no address that a bearer of yours reaches.',
      remedy: 'Write a call, the number of a node, a mail address, or add them under Tools, People.',
    });
  const deadlineS = question.withinMin === null ? HORIZON_S : question.withinMin * 60;
  const { ways, cut } = findWays(crossingsOf(gathered.candidates), US, FAR, {
    deadlineS,
    mostCrossings: 2,
    mostLabels: 40,
  });
  const told = apart(ways);
  const chosen = [...told, ...sharingNothing(gathered.candidates, told, deadlineS)].slice(0, MOST_WAYS);
  const late = gathered.candidates.filter(
    ({ arrival, holder: { beyond } }) => chanceBy(beyond ? across(arrival, beyond.arrival) : arrival, deadlineS) <= 0,
  );
  return {
    at: new Date(context.nowMs).toISOString(),
    person: person?.name ?? null,
    ways: chosen.flatMap(({ way, virtues }) => {
      const candidate = gathered.candidates.find(({ id }) => id === way.crossings[0]?.id);
      return candidate ? [planned(candidate, way, virtues, person, context.nowMs)] : [];
    }),
    excluded: [
      ...gathered.excluded,
      ...late.map(({ title }) => ({
        title,
        reason: 'Nothing of it would arrive in the time that it has.',
        remedy: 'Give it more time.',
      })),
    ],
    cut,
  };
}

async function gather(
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
  const closed = !bearer.enabled
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
  const { retry } = context.settings;
  const queueS = bearer.queued * QUEUED_S;
  const cautions = cautionsOf(bearer, person);
  switch (carriage.what) {
    case 'packets': {
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
      const tries = await ownTries(
        context.queries,
        bearer.id,
        far.map(({ to }) => to),
        context.nowMs,
      );
      const repeats = await ownRepeats(context.queries, bearer.id, context.nowMs);
      for (const { to, text, holder, service } of far) {
        const heardAs = await gatewayOf(context, to);
        const neighbourhood = await hopsAbout(context.queries, {
          own,
          ownPosition: context.ownPosition,
          to: heardAs,
          nowMs: context.nowMs,
          mapReach: context.mapReach,
          listeningSinceMs: bearer.state.link === 'up' ? Date.parse(bearer.state.since) : null,
        });
        // What is behind a gateway is reached where the gateway is.
        const renamed =
          heardAs === to
            ? neighbourhood
            : { ...neighbourhood, hops: neighbourhood.hops.map((hop) => rename(hop, heardAs, to)) };
        const { candidates, excluded } = byPacketRadio({
          bearerId: bearer.id,
          own,
          to,
          text,
          txDelayMs: carriage.txDelayMs,
          retry,
          deadlineS,
          queueS,
          load: bearer.load ?? 0,
          neighbourhood: renamed,
          triesBy: (path) => tries.get(triesKey(to, path)) ?? NO_TRIES,
          repeats,
          holder,
          title: service === null ? `Packet radio to ${to}` : `${service.name} by ${to}`,
          how:
            service === null ? `by packet radio to ${to}` : `by packet radio to ${to}, ${service.name.toLowerCase()}`,
          command: service?.command ?? null,
          cautions: [...cautions, ...(holder.beyond ? [holder.beyond.words] : [])],
        });
        into.candidates.push(...candidates);
        into.excluded.push(...excluded);
      }
      return;
    }
    case 'texts': {
      const left = bearer.duty?.mostMs == null ? null : (bearer.duty.mostMs - bearer.duty.usedMs) / 1000;
      const tries = await ownTries(context.queries, bearer.id, addresses, context.nowMs);
      for (const node of addresses) {
        const [known] = await rowsOf<{ tag: string; hops: number | null; last_at: Date }>(
          context.queries,
          'select tag, hops, last_at from mesh_node where bearer_id = $1 and node = $2',
          [bearer.id, node],
        );
        const { candidates, excluded } = byMesh({
          bearerId: bearer.id,
          carriage,
          node,
          tag: known?.tag ?? node,
          text: question.text,
          hops: known?.hops ?? null,
          lastAgoS: known ? (context.nowMs - known.last_at.getTime()) / 1000 : null,
          retry,
          deadlineS,
          queueS,
          leftOfHourS: left,
          tries: tries.get(triesKey(node, [])) ?? NO_TRIES,
        });
        into.candidates.push(...candidates);
        into.excluded.push(...excluded);
      }
      return;
    }
    case 'messages':
    case 'mail': {
      const held = await sessionsHeld(context.queries, bearer.id, context.nowMs);
      for (const to of addresses) {
        const candidate = bySession({
          bearerId: bearer.id,
          bearerName: bearer.name,
          carriage,
          to,
          text: question.text,
          retry,
          deadlineS,
          held,
        });
        into.candidates.push({ ...candidate, cautions: [...cautions, ...candidate.cautions] });
      }
    }
  }
}

const rename = <H extends { readonly from: string; readonly to: string }>(hop: H, from: string, to: string): H => ({
  ...hop,
  from: hop.from === from ? to : hop.from,
  to: hop.to === from ? to : hop.to,
});

/** The addresses of somebody for a way; what was typed, where it is one itself. */
async function addressesBy(
  { queries }: PlanningContext,
  typed: string,
  person: Person | null,
  what: keyof typeof ADDRESS_OF_WAY,
  bearerId: string,
): Promise<string[]> {
  const sort: AddressSort = ADDRESS_OF_WAY[what];
  const word = typed.trim();
  const ofPerson = person ? addressesOf(person, sort) : [];
  switch (what) {
    case 'packets':
      return ofPerson.length > 0
        ? ofPerson
        : person === null && parseStationCall(word.toUpperCase()).ok
          ? [word.toUpperCase()]
          : [];
    case 'texts': {
      const number = parseNodeNumber(word.toUpperCase());
      if (person === null && number.ok) return [number.value];
      const tags = ofPerson.length > 0 ? ofPerson : person === null ? [word.toUpperCase()] : [];
      // Of two that call themselves the same none is meant for sure.
      const rows = await rowsOf<{ node: string; tag: string }>(
        queries,
        `select node, tag from mesh_node m where bearer_id = $1 and tag = any($2)
           and 1 = (select count(*) from mesh_node o where o.bearer_id = m.bearer_id and o.tag = m.tag)`,
        [bearerId, tags],
      );
      return rows.map(({ node }) => node);
    }
    case 'messages':
      return ofPerson;
    case 'mail':
      return ofPerson.length > 0 ? ofPerson : person === null && /^\S+@\S+\.\S+$/.test(word) ? [word] : [];
  }
}

interface ThroughService {
  readonly to: string;
  readonly text: string;
  readonly holder: Holder;
  readonly service: { readonly name: string; readonly command: NonNullable<PlannedWay['send']['command']> };
}

/** Services of the directory that bring a text to a phone or a mailbox of somebody. */
async function throughServices(
  { queries }: PlanningContext,
  { text, to }: WaysQuestion,
  person: Person | null,
): Promise<ThroughService[]> {
  const services = (await listServices(queries)).flatMap(reachesPeople);
  return services.flatMap(({ service, command, field, sort }) => {
    const typed = person ? addressesOf(person, sort)[0] : to;
    const far = typed === undefined ? null : readField(sort, typed);
    if (!far?.ok) return [];
    const values = { [field]: far.value, text };
    return [
      {
        to: service.address,
        // The number or mailbox stands in front of the text.
        text: `${far.value} ${text}`,
        holder: { name: service.address, beyond: sort === 'phone' ? BEYOND.phone : BEYOND.mail },
        service: {
          name: sort === 'phone' ? 'A text to the phone' : 'One-line mail',
          command: { service: service.address, command: command.id, values },
        },
      },
    ];
  });
}

/** A service is behind a gateway: the directory says which, in its words; what it does not say is reached as it is called. */
async function gatewayOf({ queries }: PlanningContext, address: string): Promise<string> {
  const service = await serviceAt(queries, address);
  const call = service?.reached.split(/\s+/).find((word) => /\d/.test(word) && parseStationCall(word).ok);
  return call ?? address;
}

/** What stands against it although it is not forbidden here. */
function cautionsOf(bearer: BearerView, person: Person | null): string[] {
  if (!person || person.licensed || !bearerKind(bearer.config.kind).amateurBand) return [];
  return [
    person.agreement === ''
      ? `${person.name} has no licence: look up what your rules say of traffic for others. No agreement is noted.`
      : `${person.name} has no licence: look up what your rules say of traffic for others. Agreed: ${person.agreement}`,
  ];
}

interface Told {
  readonly way: FoundWay;
  readonly virtues: PlannedWay['virtues'];
}

/** Those that a person would tell apart, each with what sets it apart. */
function apart(ways: readonly FoundWay[]): Told[] {
  const best = (score: (way: FoundWay) => number) =>
    ways.reduce<FoundWay | null>((found, way) => (found === null || score(way) > score(found) ? way : found), null);
  const by: Partial<Record<(typeof VIRTUES)[number], FoundWay | null>> = {
    surest: best(({ arrival }) => arrival.chance),
    fastest: best(({ arrival }) => -(expectedS(arrival) ?? Infinity)),
    'least air time': best(({ airS }) => -airS),
    'best proof': best(({ proof, arrival }) => proof + arrival.chance / 2),
    'fewest hands': best(({ hands, arrival }) => -hands + arrival.chance / 2),
  };
  const told = ways.flatMap((way): Told[] => {
    const virtues = VIRTUES.filter((virtue) => by[virtue] === way);
    return virtues.length > 0 ? [{ way, virtues }] : [];
  });
  // Of those that are nearly as sure as the surest, the one that takes least of the channel is proposed.
  const surest = by.surest?.arrival.chance ?? 0;
  const [proposed] = told
    .filter(({ way }) => way.arrival.chance >= surest - NEARLY)
    .sort((a, b) => a.way.airS - b.way.airS);
  return proposed ? [proposed, ...told.filter((one) => one !== proposed)] : told;
}

/** The surest of each bearer and service that is not among them: what is beaten in everything still goes where the others fail together. */
function sharingNothing(candidates: readonly Candidate[], told: readonly Told[], deadlineS: number): Told[] {
  const roadOf = ({ send }: Candidate) => `${send.way.bearerId}/${send.command?.service ?? ''}`;
  const taken = new Set(
    told.flatMap(({ way }) => candidates.filter(({ id }) => id === way.crossings[0]?.id).map(roadOf)),
  );
  const more: Told[] = [];
  for (const road of new Set(candidates.map(roadOf))) {
    if (taken.has(road)) continue;
    const own = crossingsOf(candidates.filter((candidate) => roadOf(candidate) === road));
    const [way] = findWays(own, US, FAR, { deadlineS, mostCrossings: 2 }).ways;
    if (way) more.push({ way, virtues: ['fails for other reasons'] });
  }
  return more.sort((a, b) => b.way.arrival.chance - a.way.arrival.chance);
}

function planned(
  candidate: Candidate,
  way: FoundWay,
  virtues: PlannedWay['virtues'],
  person: Person | null,
  nowMs: number,
): PlannedWay {
  const { arrives, holder, proof, rests, tries } = candidate;
  const beyond = holder.beyond?.arrival.chance ?? 1;
  const whole = { chance: way.arrival.chance, low: arrives.low * beyond, high: arrives.high * beyond };
  const receptions = rests.reduce((sum, { heard, inferred }) => sum + heard + inferred, 0);
  const last = rests.flatMap(({ lastAt }) => (lastAt === null ? [] : [Date.parse(lastAt)])).sort((a, b) => b - a)[0];
  const seen = receptions > 0 || tries.answered + tries.unanswered > 0;
  const [first, second] = explainWay({
    how: candidate.how,
    arrives: whole,
    ninetyS: ninetyS(way.arrival),
    proven: proof && { spread: proof.proven, by: proof.by },
    receptions,
    lastAgoS: last === undefined ? null : Math.max(0, (nowMs - last) / 1000),
    answered: tries.answered,
    unanswered: tries.unanswered,
    otherwise: candidate.otherwise,
  });
  return {
    id: candidate.id,
    title: candidate.title,
    virtues,
    sentences: [first, [second, ...candidate.silences].join(' ')],
    arrives: whole,
    proof: proof && { rung: proof.rung, proven: proof.proven },
    expectedS: expectedS(way.arrival) ?? 0,
    ninetyS: ninetyS(way.arrival) ?? 0,
    airS: candidate.airS,
    hands: way.hands,
    strips: [
      { from: 'you', to: holder.name, chance: arrives.chance, seen },
      ...(holder.beyond
        ? [{ from: holder.name, to: person?.name ?? candidate.send.to, chance: beyond, seen: false }]
        : []),
    ],
    rests: [...rests],
    tries: { answered: tries.answered, unanswered: tries.unanswered },
    basis: seen ? 'evidence' : 'map',
    cautions: [...candidate.cautions],
    send: candidate.send,
  };
}
