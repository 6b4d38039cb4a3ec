import { carriageOf, locksOf, ownStation, type Carriage, type Settings, type WrittenItem } from '@tombolo/contract';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { BearerEntity, ItemEntity, type ItemRow } from '../../store/entities';
import { noteOurAnswer, queueLeg } from '../legs';
import { addressOf } from './address';
import { byMail } from './by-mail';
import { byMessages } from './by-messages';
import { byPackets } from './by-packets';
import { byTexts } from './by-texts';
import type { Prepare, Prepared, Written } from './prepared';

/** How something is written for each way. */
const WAYS = { packets: byPackets, texts: byTexts, messages: byMessages, mail: byMail };

/** Puts something into the queue; false when it is there already: the same identifier again changes nothing. */
export const queueItem = (source: DataSource, wanted: WrittenItem, settings: Settings, at: Date): Promise<boolean> =>
  source.transaction(async (manager) => {
    const items = manager.getRepository(ItemEntity);
    if (await items.existsBy({ id: wanted.id })) return false;
    if (wanted.answers !== null && !(await items.existsBy({ id: wanted.answers, direction: 'in' })))
      throw new ProblemError(
        422,
        'no-such-item',
        'What it answers is not there',
        'No item that arrived here has that identifier. Nothing was queued; write it as a text of its own.',
      );
    if (wanted.deadline !== null && Date.parse(wanted.deadline) <= at.getTime())
      throw new ProblemError(
        422,
        'deadline-passed',
        'Its deadline has passed',
        `It was to go out until ${wanted.deadline.slice(11, 16)}Z. Nothing was queued; choose a later time and send again.`,
      );
    const carriage = await chosen(manager, wanted.way, settings);
    const prepared = await (WAYS[wanted.way.by] as Prepare<typeof wanted.way.by>)(manager, {
      item: wanted,
      address: await addressOf(manager, wanted),
      content: wanted.content,
      way: wanted.way,
      carriage,
      settings,
      own: ownStation(settings) ?? '',
      at,
    } as Written<typeof wanted.way.by>);
    const item = itemOf(wanted, prepared, at);
    await items.insert(item);
    for (const { name, type, content } of prepared.attachments ?? [])
      await manager.query(
        'insert into attachment (id, item_id, name, type, content) values (gen_random_uuid(),$1,$2,$3,$4)',
        [item.id, name, type, content],
      );
    const { leg } = prepared;
    await queueLeg(
      manager,
      { ...item, sender: leg.from ?? item.sender, addressee: leg.to ?? item.addressee },
      {
        bearerId: wanted.way.bearerId,
        path: [...leg.path],
        info: Buffer.from(leg.info),
        policy: { ...settings.retry, ...(leg.once && { tries: 1 }), until: wanted.deadline },
        detail: leg.detail,
        note: leg.note,
      },
      at,
    );
    if (wanted.answers !== null) await noteOurAnswer(manager, wanted.answers, item, at);
    return true;
  });

/** What the chosen bearer carries: it must carry what was written, and be allowed to. */
export async function chosen(
  manager: EntityManager,
  { by, bearerId }: Pick<WrittenItem['way'], 'by' | 'bearerId'>,
  settings: Settings,
): Promise<Carriage> {
  const bearer = await manager.getRepository(BearerEntity).findOneBy({ id: bearerId });
  if (!bearer)
    throw new ProblemError(
      422,
      'no-such-bearer',
      'That bearer does not exist',
      `There is no bearer “${bearerId}” any more.`,
    );
  const carriage = carriageOf(bearer.config);
  if (carriage.what !== by)
    throw new ProblemError(
      422,
      'wrong-way',
      'That bearer does not carry it',
      `“${bearer.name}” carries ${carriage.what}, not ${by}.`,
    );
  const locks = locksOf(bearer.config.kind, settings);
  if (locks.length > 0)
    throw new ProblemError(
      409,
      'transmit-locked',
      'The transmitter is locked',
      `${locks.join(' ')} Nothing was queued; answer this in Settings and send again.`,
    );
  return carriage;
}

const itemOf = ({ id, precedence, answers }: WrittenItem, { item }: Prepared, at: Date): ItemRow => ({
  id,
  direction: 'out',
  precedence,
  answers,
  createdAt: at,
  filedAt: null,
  refused: false,
  packetId: null,
  externalId: null,
  trace: [],
  undecipherable: false,
  standing: null,
  revision: '0',
  number: null,
  numberField: null,
  acknowledgementAsked: false,
  subject: null,
  cc: [],
  ...item,
});
