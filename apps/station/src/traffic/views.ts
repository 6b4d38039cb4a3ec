import {
  arrivalRoad,
  joinRoads,
  bestLeg,
  causewayOf,
  explainRoad,
  heapOf,
  statusOf,
  type Causeway,
  type HeardPath,
  type LegRoad,
  type PathHop,
  type ServiceQuestion,
  type Status,
} from '@tombolo/core';
import type { EvidenceRecord, ItemDetail, ItemSummary } from '@tombolo/contract';
import { In, type DataSource, type EntityManager } from 'typeorm';
import { listedParts, partsOf, type ListedPart } from '../parts/of-item';
import { listPeople } from '../people/people';
import { rowsOf } from '../store/database';
import { ItemEntity, LegEntity, type ItemRow, type LegRow } from '../store/entities';
import { keptPacket, type KeptReception } from '../heard/statements';
import { receptionsOf } from '../store/moments';
import { predictionsOf } from '../planning/predictions';
import { custodyOf } from '../store/custody';
import { legViews } from '../transmissions/views';
import { evidenceOf } from '../store/evidence';

/** Items with the status that their evidence gives them at `now`. */
export async function summariesOf(source: DataSource, items: readonly ItemRow[], now: Date): Promise<ItemSummary[]> {
  const ids = items.map((item) => item.id);
  const evidence = await evidenceOf(source, ids);
  const legs = await conveyingLegs(source, ids);
  const roads = await arrivalRoads(source, items);
  const names = await nodeNames(source);
  const parts = await listedParts(source, items);
  return items.map((item) =>
    summaryOfItem(
      item,
      legs.get(item.id) ?? [],
      evidence.get(item.id) ?? [],
      roads.get(item.packetId ?? ''),
      names,
      parts.get(item.id),
      now,
    ),
  );
}

/** Names of mesh nodes by number: a node may tell its name after it was met on a road. */
async function nodeNames(source: DataSource | EntityManager): Promise<Map<string, string>> {
  const rows = await rowsOf<{ node: string; tag: string }>(source, 'select node, tag from mesh_node', []);
  return new Map(rows.map((row) => [row.node, row.tag]));
}

async function conveyingLegs(source: DataSource, ids: readonly string[]): Promise<Map<string, LegRow[]>> {
  const rows =
    ids.length === 0
      ? []
      : await source
          .getRepository(LegEntity)
          .find({ where: { itemId: In([...ids]), role: 'convey' }, order: { createdAt: 'ASC' } });
  const byItem = new Map<string, LegRow[]>();
  for (const leg of rows) byItem.set(leg.itemId!, [...(byItem.get(leg.itemId!) ?? []), leg]);
  return byItem;
}

const roadOf = (leg: LegRow, arrivedBy: readonly PathHop[] | undefined): LegRoad => ({
  legId: leg.id,
  from: leg.fromCall,
  to: leg.toCall,
  path: leg.path,
  arrivedBy:
    leg.detail?.arrivedBy?.map((hop) => (typeof hop === 'string' ? { call: hop, certain: true } : hop)) ?? arrivedBy,
  overMesh: leg.detail?.node !== undefined || leg.detail?.channel !== undefined,
  far: leg.detail?.relay?.service ? (leg.detail.relay.person ?? leg.detail.relay.far) : null,
});

/** For arrived items: the stations that carried them here, told by the copies of their packet. */
async function arrivalRoads(
  source: DataSource | EntityManager,
  items: readonly ItemRow[],
): Promise<Map<string, PathHop[]>> {
  const packetIds = items.filter((item) => item.direction === 'in').flatMap((item) => item.packetId ?? []);
  const copies = new Map<string, HeardPath[]>();
  const rows =
    packetIds.length === 0
      ? []
      : await rowsOf<KeptReception & { packet_id: string }>(
          source,
          `select r.packet_id, r.raw, r.form, c.import_id from reception r join channel c on c.id = r.channel_id
           where r.packet_id = any($1::bigint[]) and r.id between $2 and $3`,
          [packetIds, ...receptionsOf(packetIds)],
        );
  for (const row of rows) {
    const packet = keptPacket(row);
    if (!packet) continue;
    copies.set(row.packet_id, [...(copies.get(row.packet_id) ?? []), explainRoad(packet)]);
  }
  return new Map([...copies].map(([id, paths]) => [id, arrivalRoad(paths)]));
}

function summaryOfItem(
  item: ItemRow,
  legs: readonly LegRow[],
  evidence: readonly EvidenceRecord[],
  arrivedBy: readonly PathHop[] | undefined,
  names: ReadonlyMap<string, string>,
  part: ListedPart | undefined,
  now: Date,
): ItemSummary {
  // An arrived item that is handed on stands where its onward legs have got it.
  const onward = item.direction === 'in' ? legs.filter((leg) => leg.detail?.relay) : [];
  const last = onward.at(-1);
  const onwardIds = new Set(onward.map((leg) => leg.id));
  const known = statusOf(
    last ? evidence.filter((record) => record.legId !== null && onwardIds.has(record.legId)) : evidence,
    {
      addressee: last ? (last.detail?.relay?.person ?? last.toCall) : item.addressee,
      acknowledgementAsked: last ? last.acknowledgementAsked : item.acknowledgementAsked,
      arrived: item.direction === 'in' && !last,
      refused: item.refused,
    },
    now.toISOString(),
  );
  const ends = legs.some(({ detail }) => detail?.service?.endsWhenTaken && !detail.relay);
  // Nothing more is to be waited for where nobody answers.
  const status = ends && known.rung === 'handed on' ? { ...known, wouldProve: null, waitUntil: null } : known;
  const road = causewayOfItem(item, legs, onward, evidence, arrivedBy, status);
  const causeway = road && {
    ...road,
    stones: road.stones.map((stone) => ({ ...stone, label: names.get(stone.label) ?? stone.label })),
  };
  return {
    id: item.id,
    revision: Number(item.revision),
    direction: item.direction,
    kind: item.kind,
    precedence: item.precedence,
    sender: item.sender,
    addressee: item.addressee,
    subject: item.subject,
    body: item.body,
    whole: part?.whole ?? null,
    number: item.number,
    acknowledgementAsked: item.acknowledgementAsked,
    deadline: legs.filter(({ role }) => role === 'convey').at(-1)?.policy.until ?? null,
    createdAt: item.createdAt.toISOString(),
    filedAt: item.filedAt?.toISOString() ?? null,
    heap: heapOf(status, {
      direction: last ? 'out' : item.direction,
      filed: item.filedAt !== null,
      wantsAnswer: item.kind !== 'bulletin' && !item.undecipherable && (part?.needsAnswer ?? true),
    }),
    status,
    causeway,
  };
}

/** The road here, and behind it the road on. */
function causewayOfItem(
  item: ItemRow,
  legs: readonly LegRow[],
  onward: readonly LegRow[],
  evidence: readonly EvidenceRecord[],
  arrivedBy: readonly PathHop[] | undefined,
  status: Status,
): Causeway | null {
  const arrived = item.direction === 'in' ? legs.filter((leg) => !onward.includes(leg)) : [];
  const here = bestLeg(
    (item.direction === 'in' ? arrived : legs).map((leg) =>
      roadOf(leg, item.direction === 'in' ? (arrivedBy ?? []) : undefined),
    ),
    evidence,
  );
  const on = bestLeg(
    onward.map((leg) => roadOf(leg, undefined)),
    evidence,
  );
  return joinRoads([here, on].flatMap((road) => (road ? [causewayOf(road, evidence, status)] : [])));
}

/** The same for an item that must be there. */
export async function knownItem(source: DataSource, id: string, now: Date): Promise<ItemDetail> {
  const item = await itemDetail(source, id, now);
  if (!item) throw new Error(`item ${id} is gone`);
  return item;
}

/** An item with all that is known of it at one moment; null when there is none. */
export const itemDetail = (source: DataSource, id: string, now: Date): Promise<ItemDetail | null> =>
  // Read piece by piece it could be answered already and waiting still.
  source.transaction('REPEATABLE READ', (manager) => detailIn(manager, id, now));

/** Items of ours that an answer of a service fits alike. */
const mayAnswer = (source: EntityManager, id: string): Promise<ItemDetail['mayAnswer']> =>
  rowsOf(
    source,
    `select i.id, i.addressee, i.body from answer_offer o join leg l on l.id = o.leg_id join item i on i.id = l.item_id
     where o.item_id = $1 order by i.created_at desc, i.id`,
    [id],
  );

/** The item of ours that an arrived one answers, and whom of the list of people it is from, when a service stands between. */
async function whatItAnswers(
  source: EntityManager,
  { direction, answers }: ItemRow,
): Promise<Pick<ItemDetail, 'question' | 'person'>> {
  if (direction !== 'in' || answers === null) return { question: null, person: null };
  const [row] = await rowsOf<{
    id: string;
    addressee: string;
    body: string;
    command: ServiceQuestion | null;
    far: string[] | null;
  }>(
    source,
    `select i.id, i.addressee, i.body,
       (select l.detail->'service' from leg l where l.item_id = i.id and l.detail ? 'service'
          and not coalesce((l.detail->'service'->>'byHand')::boolean, false) order by l.created_at desc limit 1) as command,
       (select array_agg(v.value) from leg l, jsonb_each_text(l.detail->'service'->'values') v
        where l.item_id = i.id and l.detail ? 'service' and v.key <> 'text') as far
     from item i where i.id = $1`,
    [answers],
  );
  if (!row) return { question: null, person: null };
  const { far, ...question } = row;
  const digits = (text: string) => text.replace(/\D/g, '');
  const person = (await listPeople(source)).find(({ addresses }) =>
    addresses.some(({ sort, address }) =>
      far?.some((one) =>
        sort === 'phone' ? digits(one) === digits(address) : one.toLowerCase() === address.toLowerCase(),
      ),
    ),
  );
  return { question, person: far ? (person?.name ?? null) : null };
}

async function detailIn(source: EntityManager, id: string, now: Date): Promise<ItemDetail | null> {
  const item = await source.getRepository(ItemEntity).findOneBy({ id });
  if (!item) return null;
  const legs = await source.getRepository(LegEntity).find({ where: { itemId: id }, order: { createdAt: 'ASC' } });
  const evidence = (await evidenceOf(source, [id])).get(id) ?? [];
  const roads = await arrivalRoads(source, [item]);
  const conveying = legs.filter((leg) => leg.role === 'convey');
  const names = await nodeNames(source);
  const part = (await listedParts(source, [item])).get(id);
  const attachments = await rowsOf<{ id: string; name: string; type: string; octets: number }>(
    source,
    'select id, name, type, length(content) as octets from attachment where item_id = $1 order by name, id',
    [id],
  );
  return {
    ...summaryOfItem(item, conveying, evidence, roads.get(item.packetId ?? ''), names, part, now),
    legs: await legViews(source, legs),
    predictions: await predictionsOf(
      source,
      legs.map((leg) => leg.id),
    ),
    evidence,
    packetId: item.packetId,
    cc: item.cc,
    attachments,
    custody: await custodyOf(source, id),
    trace: item.trace,
    mayAnswer: await mayAnswer(source, id),
    ...(await whatItAnswers(source, item)),
    parts: await partsOf(source, item),
    command:
      conveying.find(({ detail }) => detail?.service && !detail.service.byHand && !detail.relay)?.detail?.service ??
      null,
  };
}
