import { checkMeshText, checkMessageText, encodeMessage, octetsOfText } from '@tombolo/core';
import { carriageOf, ownStation, type newRelay, type Settings } from '@tombolo/contract';
import MailComposer from 'nodemailer/lib/mail-composer/index.js';
import type { DataSource, EntityManager } from 'typeorm';
import type { z } from 'zod';
import { ProblemError } from '../problem-error';
import { addCustody } from '../store/custody';
import { rowsOf } from '../store/database';
import { LegEntity, type ItemRow, type LegDetail } from '../store/entities';
import { nextNumber } from '../traffic/legs';
import { queueLeg } from '../transmissions/queue-leg';
import { worded } from '../traffic/write/command';
import { leftInHour, type RelayRate } from './rate';
import { verdict } from './verdict';
import { held, waysOn, type Way } from './ways';

/** What goes over the air for a way: the frame's information field, the mail, the mesh text. */
async function infoOf(manager: EntityManager, way: Way, item: ItemRow, legId: string, settings: Settings, at: Date) {
  const carriage = carriageOf(way.bearer.config);
  if (carriage.what === 'packets') {
    const put = way.detail.service;
    const command = put && {
      is: 'command' as const,
      command: put.command,
      values: { ...put.values, text: way.text },
      positionFirst: false,
    };
    const text = command ? (await worded(manager, put.address, command)).body : way.text;
    const checked = checkMessageText(text);
    if (!checked.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', checked.error.reason);
    const number = await nextNumber(manager, at);
    const info = encodeMessage({ addressee: way.to, text, number });
    if (!info.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', info.error.reason);
    return { info: Buffer.from(info.value), number, acknowledgementAsked: true };
  }
  if (carriage.what === 'texts') {
    const channel = carriage.channels.find(({ name }) => name === way.detail.channel);
    const checked = checkMeshText(way.text, channel?.sealed ?? false);
    if (!checked.ok) throw new ProblemError(422, 'text', 'The text cannot be sent', checked.error.reason);
    return {
      info: Buffer.from(way.text, 'utf8'),
      number: await nextNumber(manager, at),
      acknowledgementAsked: way.detail.node !== undefined,
    };
  }
  if (carriage.what === 'mail') {
    const octets = await new MailComposer({
      from: { name: ownStation(settings) ?? '', address: carriage.address },
      to: [way.to],
      subject: item.subject ?? `From ${item.sender} by radio`,
      text: way.text,
      date: at,
      messageId: `<${item.id}@${carriage.address.split('@')[1]}>`,
      disableFileAccess: true,
      disableUrlAccess: true,
    })
      .compile()
      .build();
    return { info: octets, number: null, acknowledgementAsked: false };
  }
  throw new ProblemError(422, 'no-relay', 'Nothing is handed on there', `${legId}: that bearer takes no relays.`);
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
    const known = (await waysOn(manager, holding)).find(
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
    const decision = await verdict(manager, holding, way, request.released);
    if (!decision.allowed)
      throw new ProblemError(409, `rule-${decision.rule}`, 'Not handed on', `${decision.words} The item is kept.`);
    const carriage = carriageOf(way.bearer.config);
    const own = carriage.what === 'texts' ? carriage.tag : (ownStation(settings) ?? '');
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
        path: carriage.what === 'packets' ? [...(request.path ?? carriage.path)] : [],
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
