import { ownStation, type Settings, type WrittenItem } from '@tombolo/contract';
import { randomUUID } from 'node:crypto';
import type { DataSource, EntityManager } from 'typeorm';
import { ProblemError } from '../../problem-error';
import { ItemEntity, type ItemRow } from '../../store/entities';
import { ITEM_LOCK } from '../../store/locks';
import { noteOurAnswer } from '../legs';
import { queueLeg } from '../../transmissions/queue-leg';
import { addressOf } from './address';
import { byMail } from './by-mail';
import { byMessages } from './by-messages';
import { byPackets } from './by-packets';
import { byTexts } from './by-texts';
import { chosen } from './chosen';
import { inParts, partId, PARTS_APART_MS } from './in-parts';
import { ownPositionIn } from './own-position';
import type { Prepare, Prepared, Written } from './prepared';

/** A service that uses where we were last gets our position first: what was written is due so much later. */
const BEHIND_POSITION_MS = 3000;

/** How something is written for each way. */
const WAYS = { packets: byPackets, texts: byTexts, messages: byMessages, mail: byMail };

/**
 * Puts something into the queue; false when it is there already: the same identifier again changes nothing. `why` stands in its record,
 * where nobody pressed a key for it.
 */
export const queueItem = (
  source: Pick<DataSource, 'transaction'>,
  wanted: WrittenItem,
  settings: Settings,
  at: Date,
  why?: string,
): Promise<boolean> =>
  source.transaction(async (manager) => {
    // Pressed again while the first press is still being stored: the second waits, and is told of the same item.
    await manager.query('select pg_advisory_xact_lock($1, hashtext($2))', [ITEM_LOCK, wanted.id]);
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
    const address = await addressOf(manager, wanted);
    const dueAt = await sendPositionFirst(manager, wanted, settings, at);
    const texts = await inParts(manager, wanted, carriage, address, at);
    for (const [n, content] of texts.entries()) {
      const written = { ...wanted, content, id: n === 0 ? wanted.id : partId(wanted.id, n) };
      const prepared = await (WAYS[wanted.way.by] as Prepare<typeof wanted.way.by>)(manager, {
        item: written,
        address,
        content,
        way: wanted.way,
        carriage,
        settings,
        own: ownStation(settings) ?? '',
        at,
      } as Written<typeof wanted.way.by>);
      // Parts leave in their order.
      const item = itemOf(written, prepared, new Date(at.getTime() + n));
      await queuePrepared(manager, written, item, prepared, {
        settings,
        at,
        why,
        dueAt: n === 0 ? dueAt : new Date((dueAt ?? at).getTime() + n * PARTS_APART_MS),
      });
      if (n === 0 && wanted.answers !== null) await noteOurAnswer(manager, wanted.answers, item, at);
    }
    return true;
  });

async function queuePrepared(
  manager: EntityManager,
  wanted: WrittenItem,
  item: ItemRow,
  { attachments = [], leg }: Prepared,
  {
    settings,
    at,
    why,
    dueAt,
  }: {
    readonly settings: Settings;
    readonly at: Date;
    readonly why: string | undefined;
    readonly dueAt: Date | undefined;
  },
): Promise<void> {
  await manager.getRepository(ItemEntity).insert(item);
  for (const { name, type, content } of attachments)
    await manager.query(
      'insert into attachment (id, item_id, name, type, content) values (gen_random_uuid(),$1,$2,$3,$4)',
      [item.id, name, type, content],
    );
  await queueLeg(
    manager,
    { ...item, sender: leg.from ?? item.sender, addressee: leg.to ?? item.addressee },
    {
      bearerId: wanted.way.bearerId,
      path: [...leg.path],
      info: Buffer.from(leg.info),
      policy: { ...settings.retry, ...triesOf(wanted.way), ...(leg.once && { tries: 1 }), until: wanted.deadline },
      detail: leg.detail,
      note: [leg.note, why].filter((words) => words !== undefined).join(', ') || undefined,
      dueAt,
    },
    at,
  );
}

/** How often, where the way says so. */
const triesOf = (way: WrittenItem['way']) =>
  way.by === 'packets' && way.times !== undefined ? { tries: way.times } : {};

/** Queues our position before a command that uses it; gives when the command is due, nothing where no position goes first. */
async function sendPositionFirst(
  manager: EntityManager,
  { content, way }: WrittenItem,
  settings: Settings,
  at: Date,
): Promise<Date | undefined> {
  if (content.is !== 'command' || !content.positionFirst || way.by !== 'packets') return undefined;
  const { bearerId, path } = way;
  await ownPositionIn(manager, { id: randomUUID(), bearerId, path, ambiguity: 0, comment: '' }, settings, at, {
    note: 'our position, before a text that uses it',
    unlessWaiting: true,
  });
  return new Date(at.getTime() + BEHIND_POSITION_MS);
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
