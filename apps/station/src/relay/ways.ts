import {
  MAX_MESSAGE_TEXT,
  mostMeshTextOctets,
  octetsOfText,
  parseStationCall,
  readField,
  readMeantFor,
  readServiceWord,
  farOf,
  roomFor,
  type Service,
} from '@tombolo/core';
import { addressesOf, carriageOf, type Carriage, type Person } from '@tombolo/contract';
import type { DataSource, EntityManager } from 'typeorm';
import { listPeople } from '../people/people';
import { listServices, serviceAt } from '../services/directory';
import { reachesPeople } from '../services/reaches-people';
import { ProblemError } from '../problem-error';
import { rowsOf } from '../store/database';
import {
  BearerEntity,
  ItemEntity,
  LegEntity,
  type BearerRow,
  type ItemRow,
  type LegDetail,
  type LegRow,
} from '../store/entities';

/** A way that an item could take on: what would be sent where. */
export interface Way {
  readonly bearer: BearerRow;
  readonly to: string;
  readonly person: string | null;
  readonly words: string;
  readonly reason: string;
  readonly text: string;
  readonly most: number;
  readonly detail: LegDetail;
}

export interface Held {
  readonly item: ItemRow;
  readonly legs: readonly LegRow[];
  readonly cameBy: BearerRow | null;
}

export async function held(queries: EntityManager | DataSource, id: string): Promise<Held> {
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
function meantFor(item: ItemRow, people: readonly Person[]): { person: Person; text: string } | null {
  const whole = textOf(item);
  const named = readMeantFor(
    whole,
    people.map(({ name }) => name),
  );
  const person = people.find(({ name }) => name === named?.name);
  if (named && person) return { person, text: named.text };
  const addressed = people.find(({ name }) => name.toLowerCase() === item.addressee.toLowerCase());
  return addressed ? { person: addressed, text: whole } : null;
}

/** Sender in front, so that the far side knows whom it hears from. */
const signed = (text: string, sender: string, most: number): string => fitted(`${text} /${sender}`, most);

/** Every way on that this station knows for an item; the one that is meant comes first. */
export async function waysOn(queries: EntityManager | DataSource, { item, legs, cameBy }: Held): Promise<Way[]> {
  const bearers = await queries
    .getRepository(BearerEntity)
    .find({ where: { enabled: true }, order: { createdAt: 'ASC' } });
  const ways: Way[] = [];
  const carrying = (what: Carriage['what']) => bearers.find(({ config }) => carriageOf(config).what === what);
  const modem = carrying('packets');
  const mesh = carrying('texts');
  const mail = carrying('mail');

  // An answer goes back along the recorded road of what it answers.
  if (item.answers) {
    const asked = await held(queries, item.answers).catch(() => null);
    const leg = asked?.legs.find((candidate) => !candidate.detail?.relay);
    if (asked?.cameBy && leg) ways.push(...wayBack(asked.cameBy, leg, item, await serviceAt(queries, item.sender)));
  }

  const people = await listPeople(queries);
  // Whoever has both looks at the phone first.
  const throughServices = (await listServices(queries))
    .flatMap(reachesPeople)
    .sort((a, b) => Number(b.sort === 'phone') - Number(a.sort === 'phone'));
  const meant = meantFor(item, people);
  for (const person of meant ? [meant.person, ...people.filter((one) => one !== meant.person)] : people) {
    const [phone] = addressesOf(person, 'phone');
    const [mailTo] = addressesOf(person, 'mail');
    const [tag] = addressesOf(person, 'node');
    const text = person === meant?.person ? meant.text : textOf(item);
    const reason =
      person === meant?.person ? `The text names ${person.name}.` : `${person.name} is in your list of people.`;
    for (const { service, command, field, sort } of throughServices) {
      const known = sort === 'phone' ? phone : mailTo;
      const to = known === undefined ? null : readField(sort, known);
      if (!to?.ok || !modem || cameBy?.id === modem.id) continue;
      const far = to.value;
      const room = roomFor(command, { [field]: far }, 'text');
      ways.push({
        bearer: modem,
        to: service.address,
        person: person.name,
        words: `${sort === 'phone' ? 'Text the phone of' : 'One-line mail to'} ${person.name} by ${service.address}`,
        reason,
        text: signed(text, item.sender, room),
        most: room,
        detail: {
          relay: { person: person.name, service: service.address, far },
          service: { address: service.address, command: command.id, values: { [field]: far } },
        },
      });
    }
    if (mailTo && mail && item.kind !== 'mail')
      ways.push({
        bearer: mail,
        to: mailTo,
        person: person.name,
        words: `Mail to ${person.name} in the next session`,
        reason,
        text: `${text}\n\n/${item.sender}`,
        most: 8000,
        detail: { relay: { person: person.name, service: null, far: null } },
      });
    if (tag && mesh && cameBy?.id !== mesh.id) {
      const nodes = await rowsOf<{ node: string }>(
        queries,
        'select node from mesh_node where bearer_id = $1 and tag = $2 order by last_at desc limit 4',
        [mesh.id, tag],
      );
      // Anybody can call his node by any tag: of several the number is told.
      for (const { node } of nodes) {
        const name = nodes.length > 1 ? node : tag;
        ways.push(meshWay(mesh, node, name, person.name, text, item, reason));
      }
    }
  }
  if (mesh && cameBy?.id !== mesh.id)
    for (const channel of channelsOf(mesh))
      ways.push({
        bearer: mesh,
        to: channel.name,
        person: null,
        words: `To everybody on the mesh channel ${channel.name}`,
        reason: item.kind === 'bulletin' ? 'A bulletin is for everybody.' : 'For all who listen there.',
        text: signed(textOf(item), item.sender, mostMeshTextOctets(channel.sealed)),
        most: mostMeshTextOctets(channel.sealed),
        detail: { channel: channel.name, relay: { person: null, service: null, far: null } },
      });
  const passed = new Set(legs.filter((leg) => leg.detail?.relay).map((leg) => `${leg.bearerId}/${leg.toCall}`));
  const bulletinFirst = (way: Way) => (item.kind === 'bulletin' && way.person === null ? 0 : 1);
  return ways
    .filter((way) => !passed.has(`${way.bearer.id}/${way.to}`))
    .sort((a, b) => bulletinFirst(a) - bulletinFirst(b))
    .slice(0, 12);
}

const channelsOf = ({ config }: BearerRow) => {
  const carriage = carriageOf(config);
  return carriage.what === 'texts' ? carriage.channels : [];
};

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
  const channels = channelsOf(mesh);
  const channel = channels.find((one) => one.name === onChannel) ?? channels[0];
  const most = mostMeshTextOctets(channel?.sealed ?? false);
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

function wayBack(cameBy: BearerRow, leg: LegRow, item: ItemRow, service: Service | null): Way[] {
  const reason = `It answers what ${leg.fromCall} sent: back along the road it came.`;
  // The service puts the number in front; the person needs the words alone.
  const word = service && readServiceWord(service, item.body);
  const said = word?.proves === 'answer' ? { from: farOf(word, {}), text: word.groups.text } : null;
  const text = said?.text ?? textOf(item);
  const { what } = carriageOf(cameBy.config);
  if (what === 'texts' && leg.detail?.node) {
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
  if (what === 'packets' && parseStationCall(leg.fromCall).ok)
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
