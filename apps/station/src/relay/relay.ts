import {
  checkMeshText,
  checkMessageText,
  checkRelay,
  encodeMessage,
  fillService,
  GATEWAY_SERVICES,
  isAmateurBand,
  MAX_MESSAGE_TEXT,
  mostMeshTextOctets,
  octetsOfText,
  parseStationCall,
  phoneDigits,
  roomInService,
  serviceAt,
  type RelayVerdict,
} from '@tombolo/core';
import { ownStation, type newRelay, type RelayProposal, type Settings } from '@tombolo/contract';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { DataSource, EntityManager } from 'typeorm';
import type { z } from 'zod';
import { ProblemError } from '../problem-error';
import { addCustody } from '../store/custody';
import { rowsOf, type Queries } from '../store/database';
import {
  BearerEntity,
  ItemEntity,
  LegEntity,
  type BearerRow,
  type ItemRow,
  type LegDetail,
  type LegRow,
} from '../store/entities';
import { RULE_LOCK } from '../store/locks';
import { nextNumber, queueLeg } from '../traffic/compose';

const RECENT = '10 minutes';

/** A way that an item could take on: what would be sent where. */
interface Way {
  readonly bearer: BearerRow;
  readonly to: string;
  readonly person: string | null;
  readonly words: string;
  readonly reason: string;
  readonly text: string;
  readonly most: number;
  readonly detail: LegDetail;
}

interface Held {
  readonly item: ItemRow;
  readonly legs: readonly LegRow[];
  readonly cameBy: BearerRow | null;
}

async function held(queries: EntityManager | DataSource, id: string): Promise<Held> {
  const item = await queries.getRepository(ItemEntity).findOneBy({ id });
  if (!item || item.direction !== 'in')
    throw new ProblemError(
      404,
      'no-such-item',
      'That item cannot be handed on',
      'Only items that arrived here can be handed on.',
    );
  const legs = await queries
    .getRepository(LegEntity)
    .find({ where: { itemId: id, role: 'convey' }, order: { createdAt: 'ASC' } });
  const bearerId = legs.find((leg) => !leg.detail?.relay)?.bearerId;
  const cameBy = bearerId ? await queries.getRepository(BearerEntity).findOneBy({ id: bearerId }) : null;
  return { item, legs, cameBy };
}

const textOf = (item: ItemRow): string =>
  (item.subject && item.kind !== 'text' ? `${item.subject}: ${item.body}` : item.body).replace(/\s+/g, ' ').trim();

/** As much of a text as fits, cut at a word, marked as cut. */
export function fitted(text: string, most: number): string {
  if (octetsOfText(text).length <= most) return text;
  let cut = text;
  while (octetsOfText(`${cut}…`).length > most) cut = cut.slice(0, -1);
  const word = cut.lastIndexOf(' ');
  return `${(word > most / 2 ? cut.slice(0, word) : cut).trimEnd()}…`;
}

/** `Ferry Office: when …` names whom it is for; the rest is what to say. */
function meantFor(item: ItemRow, settings: Settings): { person: Settings['people'][number]; text: string } | null {
  const whole = textOf(item);
  for (const person of settings.people) {
    const start = new RegExp(
      `^(?:for |to )?${person.name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}\\s*[:,–-]\\s*`,
      'iu',
    ).exec(whole);
    if (start) return { person, text: whole.slice(start[0].length) };
    if (item.addressee.toLowerCase() === person.name.toLowerCase()) return { person, text: whole };
  }
  return null;
}

/** Sender in front, so that the far side knows whom it hears from. */
const signed = (text: string, sender: string, most: number): string => fitted(`${text} /${sender}`, most);

/** Every way on that this station knows for an item; the one that is meant comes first. */
async function waysOn(
  queries: EntityManager | DataSource,
  { item, legs, cameBy }: Held,
  settings: Settings,
): Promise<Way[]> {
  const bearers = await queries
    .getRepository(BearerEntity)
    .find({ where: { enabled: true }, order: { createdAt: 'ASC' } });
  const ways: Way[] = [];
  const modem = bearers.find(({ config }) => config.kind === 'kiss-tcp');
  const mesh = bearers.find(({ config }) => config.kind === 'mesh-mqtt');
  const mail = bearers.find(({ config }) => config.kind === 'radio-mail');

  // An answer goes back along the recorded road of what it answers.
  if (item.answers) {
    const asked = await held(queries, item.answers).catch(() => null);
    const leg = asked?.legs.find((candidate) => !candidate.detail?.relay);
    if (asked?.cameBy && leg) ways.push(...wayBack(asked.cameBy, leg, item));
  }

  const meant = meantFor(item, settings);
  const people = meant
    ? [meant.person, ...settings.people.filter((person) => person !== meant.person)]
    : settings.people;
  for (const person of people) {
    const text = person === meant?.person ? meant.text : textOf(item);
    const reason =
      person === meant?.person ? `The text names ${person.name}.` : `${person.name} is in your list of people.`;
    for (const service of GATEWAY_SERVICES) {
      const to = service.reaches === 'phone' ? person.phone && phoneDigits(person.phone) : person.mail;
      if (!to || !modem || cameBy?.id === modem.id) continue;
      const room = roomInService(service, to);
      ways.push({
        bearer: modem,
        to: service.address,
        person: person.name,
        words: `${service.reaches === 'phone' ? 'Text the phone of' : 'One-line mail to'} ${person.name} by ${service.address}`,
        reason,
        text: signed(text, item.sender, room),
        most: room,
        detail: { relay: { person: person.name, service: service.address, far: to } },
      });
    }
    if (person.mail && mail && item.kind !== 'mail')
      ways.push({
        bearer: mail,
        to: person.mail,
        person: person.name,
        words: `Mail to ${person.name} in the next session`,
        reason,
        text: `${text}\n\n/${item.sender}`,
        most: 8000,
        detail: { relay: { person: person.name, service: null, far: null } },
      });
    if (person.meshNode && mesh && cameBy?.id !== mesh.id) {
      const nodes = await rowsOf<{ node: string }>(
        queries,
        'select node from mesh_node where bearer_id = $1 and tag = $2 order by last_at desc limit 4',
        [mesh.id, person.meshNode],
      );
      // Anybody can call his node by any tag: of several the number is told.
      for (const { node } of nodes) {
        const name = nodes.length > 1 ? node : person.meshNode;
        ways.push(meshWay(mesh, node, name, person.name, text, item, reason));
      }
    }
  }
  if (mesh && cameBy?.id !== mesh.id && mesh.config.kind === 'mesh-mqtt')
    for (const channel of mesh.config.channels)
      ways.push({
        bearer: mesh,
        to: channel.name,
        person: null,
        words: `To everybody on the mesh channel ${channel.name}`,
        reason: item.kind === 'bulletin' ? 'A bulletin is for everybody.' : 'For all who listen there.',
        text: signed(textOf(item), item.sender, mostMeshTextOctets(channel.key !== null)),
        most: mostMeshTextOctets(channel.key !== null),
        detail: { channel: channel.name, relay: { person: null, service: null, far: null } },
      });
  const passed = new Set(legs.filter((leg) => leg.detail?.relay).map((leg) => `${leg.bearerId}/${leg.toCall}`));
  const bulletinFirst = (way: Way) => (item.kind === 'bulletin' && way.person === null ? 0 : 1);
  return ways
    .filter((way) => !passed.has(`${way.bearer.id}/${way.to}`))
    .sort((a, b) => bulletinFirst(a) - bulletinFirst(b))
    .slice(0, 12);
}

const meshWay = (
  mesh: BearerRow,
  node: string,
  name: string,
  person: string | null,
  text: string,
  item: ItemRow,
  reason: string,
  onChannel?: string,
): Way => {
  const channels = mesh.config.kind === 'mesh-mqtt' ? mesh.config.channels : [];
  const channel = channels.find((one) => one.name === onChannel) ?? channels[0];
  const most = mostMeshTextOctets(channel?.key != null);
  return {
    bearer: mesh,
    to: name,
    person,
    words: `To node ${name}${person ? `, ${person}` : ''}, by mesh`,
    reason,
    text: signed(text, item.sender, most),
    most,
    detail: { node, channel: channel?.name ?? '', relay: { person, service: null, far: null } },
  };
};

function wayBack(cameBy: BearerRow, leg: LegRow, item: ItemRow): Way[] {
  const reason = `It answers what ${leg.fromCall} sent: back along the road it came.`;
  // The service puts the number in front; the person needs the words alone.
  const service = serviceAt(item.sender);
  const said = service ? (new RegExp(service.answer, 'u').exec(item.body)?.groups ?? null) : null;
  const text = said?.text ?? textOf(item);
  if (cameBy.config.kind === 'mesh-mqtt' && leg.detail?.node) {
    const way = meshWay(
      cameBy,
      leg.detail.node,
      leg.fromCall,
      null,
      text,
      { ...item, sender: said?.from ?? item.sender },
      reason,
      leg.detail.channel,
    );
    return [{ ...way, words: `Answer back to node ${leg.fromCall}, by mesh` }];
  }
  if (cameBy.config.kind === 'kiss-tcp' && parseStationCall(leg.fromCall).ok)
    return [
      {
        bearer: cameBy,
        to: leg.fromCall,
        person: null,
        words: `Answer back to ${leg.fromCall}, by radio`,
        reason,
        text: signed(text, item.sender, MAX_MESSAGE_TEXT),
        most: MAX_MESSAGE_TEXT,
        detail: { relay: { person: null, service: null, far: null } },
      },
    ];
  return [];
}

async function verdict(
  queries: Queries,
  { item, legs, cameBy }: Held,
  way: Pick<Way, 'bearer' | 'to' | 'text' | 'detail'>,
  settings: Settings,
  released: boolean,
): Promise<RelayVerdict> {
  const [recent] = await rowsOf<{ n: string }>(
    queries,
    `select count(*) as n from leg where bearer_id = $1 and to_call = $2 and detail ? 'relay' and created_at > now() - interval '${RECENT}'`,
    [way.bearer.id, way.to],
  );
  const answering = item.answers !== null;
  return checkRelay({
    from: cameBy?.config.kind ?? 'kiss-tcp',
    to: way.bearer.config.kind,
    target: way.detail.node ?? way.to,
    text: way.text,
    senderLicensed:
      (cameBy ? isAmateurBand(cameBy.config.kind) && cameBy.config.kind !== 'radio-mail' : true) &&
      parseStationCall(item.sender).ok &&
      !settings.people.some((person) => !person.licensed && person.name.toLowerCase() === item.sender.toLowerCase()),
    undecipherable: item.undecipherable,
    // An answer goes back to where the question came from: that is no loop.
    trace: answering ? [] : item.trace,
    passedTo: legs
      .filter((leg) => leg.detail?.relay && leg.bearerId === way.bearer.id)
      .map((leg) => leg.detail?.node ?? leg.toCall),
    recentToTarget: Number(recent?.n ?? 0),
    released,
  });
}

/** What can be done with an arrived item, and what each way needs or is refused for. */
export async function proposeRelays(source: DataSource, id: string, settings: Settings): Promise<RelayProposal[]> {
  const holding = await held(source, id);
  const ways = await waysOn(source, holding, settings);
  return Promise.all(
    ways.map(async (way): Promise<RelayProposal> => {
      const unreleased = await verdict(source, holding, way, settings, false);
      const released = await verdict(source, holding, way, settings, true);
      return {
        words: way.words,
        bearerId: way.bearer.id,
        to: way.to,
        person: way.person,
        text: way.text,
        octets: octetsOfText(way.text).length,
        most: way.most,
        needsRelease: !unreleased.allowed && released.allowed,
        refused: released.allowed ? null : released.words,
        reason: way.reason,
      };
    }),
  );
}

/** What goes over the air for a way: the frame's information field, the mail, the mesh text. */
async function infoOf(manager: EntityManager, way: Way, item: ItemRow, legId: string, settings: Settings, at: Date) {
  const { config } = way.bearer;
  if (config.kind === 'kiss-tcp') {
    const { service, far } = way.detail.relay!;
    const behind = service ? serviceAt(service) : undefined;
    const text = behind && far ? fillService(behind, far, way.text) : way.text;
    const checked = checkMessageText(text);
    if (!checked.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', checked.error.reason);
    const number = await nextNumber(manager, at);
    const info = encodeMessage({ addressee: way.to, text, number });
    if (!info.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', info.error.reason);
    return { info: Buffer.from(info.value), number, acknowledgementAsked: true };
  }
  if (config.kind === 'mesh-mqtt') {
    const channel = config.channels.find(({ name }) => name === way.detail.channel);
    const checked = checkMeshText(way.text, channel?.key != null);
    if (!checked.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', checked.error.reason);
    return {
      info: Buffer.from(way.text, 'utf8'),
      number: await nextNumber(manager, at),
      acknowledgementAsked: way.detail.node !== undefined,
    };
  }
  if (config.kind === 'radio-mail') {
    const octets = await new MailComposer({
      from: { name: ownStation(settings) ?? '', address: config.address },
      to: [way.to],
      subject: item.subject ?? `From ${item.sender} by radio`,
      text: way.text,
      date: at,
      messageId: `<${item.id}@${config.address.split('@')[1]}>`,
      disableFileAccess: true,
      disableUrlAccess: true,
    })
      .compile()
      .build();
    return { info: octets, number: null, acknowledgementAsked: false };
  }
  throw new ProblemError(422, 'no-relay', 'Nothing is handed on there', `${legId}: that link takes no relays.`);
}

/** A standing rule, and how often it may hand something on. */
export interface RelayRate {
  readonly id: string;
  readonly mostPerHour: number;
}

/**
 * What a rule may still hand on within the hour before `at`, counted by what it queued. In a transaction that goes on to hand something on the
 * lock makes several processes take turns.
 */
export async function leftInHour(queries: Queries, { id, mostPerHour }: RelayRate, at: Date): Promise<number> {
  await queries.query('select pg_advisory_xact_lock($1, hashtext($2))', [RULE_LOCK, id]);
  const [row] = await rowsOf<{ n: number }>(
    queries,
    `select count(*)::int as n from leg where detail->'relay'->>'rule' = $1 and created_at > $2`,
    [id, new Date(at.getTime() - 3600_000)],
  );
  return mostPerHour - (row?.n ?? 0);
}

export interface Relayed {
  readonly legId: string;
}

/**
 * Hands an arrived item on: the same item gets a next leg, and the record of who held it grows. Two consoles that hand it on at once:
 * the item is locked, one wins, the other is told.
 */
export async function relayItem(
  source: DataSource,
  id: string,
  request: z.output<typeof newRelay>,
  settings: Settings,
  at: Date,
  by: string,
  rule: RelayRate | null = null,
): Promise<Relayed> {
  return source.transaction(async (manager) => {
    if (rule && (await leftInHour(manager, rule, at)) <= 0)
      throw new ProblemError(409, 'rate', 'Not handed on', 'The rule has handed on as much as it may in an hour.');
    const [locked] = await rowsOf<{ id: string }>(manager, 'select id from item where id = $1 for update', [id]);
    if (!locked) throw new ProblemError(404, 'no-such-item', 'That item does not exist', `There is no item ${id}.`);
    if (await manager.getRepository(LegEntity).existsBy({ id: request.id })) return { legId: request.id };
    const holding = await held(manager, id);
    const already = holding.legs.find(
      (leg) => leg.detail?.relay && leg.bearerId === request.bearerId && leg.toCall === request.to,
    );
    if (already)
      throw new ProblemError(
        409,
        'relayed-already',
        'It was handed on already',
        `It went to ${request.to} at ${already.createdAt.toISOString().slice(11, 16)}Z. Nothing more was sent.`,
      );
    const known = (await waysOn(manager, holding, settings)).find(
      (way) => way.bearer.id === request.bearerId && way.to === request.to && way.person === request.person,
    );
    if (!known)
      throw new ProblemError(
        422,
        'no-such-way',
        'That way is not there any more',
        'Look at the ways again; nothing was sent.',
      );
    const way: Way = { ...known, text: request.text };
    if (octetsOfText(way.text).length > way.most)
      throw new ProblemError(
        422,
        'text',
        'The text is too long',
        `${octetsOfText(way.text).length} of ${way.most} octets.`,
      );
    const decision = await verdict(manager, holding, way, settings, request.released);
    if (!decision.allowed)
      throw new ProblemError(409, `rule-${decision.rule}`, 'Not handed on', `${decision.words} The item is kept.`);
    const own = way.bearer.config.kind === 'mesh-mqtt' ? way.bearer.config.tag : (ownStation(settings) ?? '');
    const { info, number, acknowledgementAsked } = await infoOf(manager, way, holding.item, request.id, settings, at);
    const detail: LegDetail = {
      ...way.detail,
      number,
      ...(rule && { relay: { ...way.detail.relay!, rule: rule.id } }),
    };
    await queueLeg(
      manager,
      { id, sender: own, addressee: way.to, acknowledgementAsked },
      {
        id: request.id,
        bearerId: way.bearer.id,
        path: way.bearer.config.kind === 'kiss-tcp' ? settings.path : [],
        info,
        policy: settings.retry,
        detail,
        note: `handed on ${by}: ${way.words}`,
      },
      at,
    );
    await addCustody(manager, {
      key: `passed:${request.id}`,
      itemId: id,
      what: 'passed',
      other: way.person ? `${way.person} by ${way.to}` : way.to,
      at,
      by: `${ownStation(settings) ?? own}, ${by}`,
      bearer: way.bearer.id,
      note: request.released ? 'released by the operator as third-party traffic' : null,
    });
    return { legId: request.id };
  });
}
