import {
  baseCall,
  fillTemplate,
  findLeft,
  holdsPattern,
  instantOfBoard,
  messageIsWhole,
  readLeaveAnswer,
  readLeft,
  readListing,
  readMessage,
  textToLeave,
  waitsForCommand,
  type BoardEntry,
} from '@tombolo/core';
import { rowsOf } from '../../store/database';
import { addEvidence } from '../../store/evidence';
import { appendEvents } from '../../store/events';
import { failpoint } from '../../store/failpoints';
import { recordArrival } from '../../arrivals/arrive';
import { copyKey } from '../../arrivals/copy-key';
import { connectTo } from '../connect';
import type { Dialogue } from '../dialogue';
import { keepOffers, offerTaken } from '../offers';
import type { BoardConfig, SessionContext } from '../session';
import { beginAttempt, endAttempt, waitingLegs, type WaitingLeg } from '../waiting-legs';

/** A session with a board: leave what waits, list what is there, take what is wanted, ask what became of ours. */
export async function runBoardSession(context: SessionContext, config: BoardConfig): Promise<void> {
  const { profile } = config;
  const dialogue = await connectTo(context, config.call);
  try {
    const ready = (what: string) => dialogue.readText((text) => waitsForCommand(profile, text), what);
    const say = (line: string) => {
      const unasked = dialogue.dropUnasked();
      if (unasked > 0) context.text(`# ${unasked} octets came unasked and were left out\n`);
      dialogue.send(`${line}\r\n`);
    };
    const command = (line: string) => {
      say(line);
      return ready(`the answer to “${line}”`);
    };
    context.stage(`waiting for ${config.call}`);
    await ready('the prompt of the board');

    const waiting = context.request.leave ? await waitingLegs(context.database, context.bearerId) : [];
    // What was being left when a session was cut off may be there: the board is asked before it is left again.
    const there = waiting.some(({ interrupted }) => interrupted > 0)
      ? readListing(profile, await command(profile.list.everything)).rows
      : [];
    for (const leg of waiting) {
      if (context.stopped()) break;
      if (leg.interrupted > 0 && (await noteFound(context, config, leg, there))) continue;
      await leave(context, config, dialogue, leg);
    }

    context.stage('asking what is there');
    const unread = readListing(profile, await command(profile.list.unread)).rows;
    const everything = readListing(profile, await command(profile.list.everything)).rows;
    const listed = new Map([...everything, ...unread].map((entry) => [entry.key || entry.number, entry]));
    await keepOffers(
      context.database,
      context.bearerId,
      [...listed.values()].map((entry) => ({
        key: entry.key,
        number: entry.number,
        kind: entry.bulletin ? 'bulletin' : 'private',
        octets: entry.octets,
        from: entry.from,
        to: entry.to,
        at: entry.at,
        subject: entry.subject,
      })),
      true,
      context.now(),
    );

    for (const entry of await wanted(context, [...listed.values()])) {
      if (context.stopped()) break;
      context.stage(`taking no. ${entry.number}, ${entry.octets} octets`, entry.octets);
      const asked = fillTemplate(profile.read.command, { number: entry.number });
      say(asked);
      const shown = await dialogue.readWhole(
        (text) => messageIsWhole(profile, entry.number, entry.octets, text),
        `the answer to “${asked}”`,
      );
      await take(context, config, entry, shown);
      failpoint('board:stored');
    }

    if (profile.mine) {
      context.stage('asking what became of ours');
      await noteLeft(context, config, await command(profile.mine.command));
    }
    context.stage('saying goodbye');
    dialogue.send(`${profile.goodbye}\r\n`);
    await dialogue.close();
  } catch (error) {
    dialogue.stream.destroy();
    throw error;
  }
}

/** Private messages to us that were not taken yet, and what was chosen. */
async function wanted(context: SessionContext, listed: readonly BoardEntry[]): Promise<BoardEntry[]> {
  const taken = await rowsOf<{ key: string }>(
    context.database,
    'select key from offer where bearer_id = $1 and item_id is not null',
    [context.bearerId],
  );
  const had = new Set(taken.map(({ key }) => key));
  const base = baseCall(context.own);
  const isOurs = ({ to }: BoardEntry) => [context.own, base].includes(to.split('@')[0]!.toUpperCase());
  return listed.filter(
    (entry) =>
      !had.has(entry.key) &&
      (context.request.take.includes(entry.key) || (context.request.takePrivate && !entry.bulletin && isOurs(entry))),
  );
}

const subjectOf = (leg: WaitingLeg): string =>
  (leg.subject ?? leg.info.toString('utf8').slice(0, 40)).replace(/[\r\n]+/g, ' ');

/** A message that the board lists as ours was taken, though nobody heard it say so. */
async function noteFound(
  context: SessionContext,
  config: BoardConfig,
  leg: WaitingLeg,
  there: readonly BoardEntry[],
): Promise<boolean> {
  const known = await rowsOf<{ number: string }>(
    context.database,
    `select detail->>'boardNumber' as number from leg where bearer_id = $1 and detail ? 'boardNumber'`,
    [context.bearerId],
  );
  const found = findLeft(
    there,
    { from: context.own, to: leg.to_call, subject: subjectOf(leg), text: leg.info.toString('utf8') },
    new Set(known.map(({ number }) => number)),
  );
  if (!found) return false;
  const [last] = await rowsOf<{ n: number }>(context.database, 'select max(n) as n from attempt where leg_id = $1', [
    leg.id,
  ]);
  await endAttempt(
    context.database,
    context.bearerId,
    leg,
    last?.n ?? 1,
    {
      kind: 'accepted',
      by: config.call,
      raw: `no ${found.number} from ${found.from} to ${found.to} key ${found.key}: ${found.subject}`,
      note: `${config.call} lists it as number ${found.number}, key ${found.key}: it was taken before the session was cut off, and is not left again`,
      again: false,
      detail: { boardNumber: found.number },
    },
    context.now(),
  );
  return true;
}

async function leave(context: SessionContext, config: BoardConfig, dialogue: Dialogue, leg: WaitingLeg): Promise<void> {
  const { profile } = config;
  const text = leg.info.toString('utf8');
  context.stage(`leaving “${leg.subject ?? text.slice(0, 40)}” for ${leg.to_call}`, leg.info.length);
  const attempt = await beginAttempt(context.database, context.bearerId, leg, context.now());
  const end = (result: Parameters<typeof endAttempt>[4]) =>
    endAttempt(context.database, context.bearerId, leg, attempt, result, context.now());
  let given = false;
  try {
    const template = leg.detail?.bulletin ? profile.leave.bulletin : profile.leave.private;
    const asked = (pattern: string) => (received: string) =>
      holdsPattern(pattern, received) || readLeaveAnswer(profile, received) !== null;
    dialogue.send(`${fillTemplate(template, { to: leg.to_call })}\r\n`);
    let said = await dialogue.readText(asked(profile.leave.asksSubject), 'the question for the subject');
    if (!readLeaveAnswer(profile, said)) {
      dialogue.send(`${subjectOf(leg)}\r\n`);
      said = await dialogue.readText(asked(profile.leave.asksText), 'the question for the text');
    }
    if (!readLeaveAnswer(profile, said)) {
      given = true;
      dialogue.send(`${textToLeave(profile, text).join('\r\n')}\r\n`);
      failpoint('board:given');
      said = await dialogue.readText((received) => waitsForCommand(profile, received), 'the board to take the text');
    } else {
      await dialogue.readText((received) => waitsForCommand(profile, said + received), 'the prompt of the board');
    }
    const answer = readLeaveAnswer(profile, said);
    const packetId = await context.proof();
    if (answer?.kind === 'taken')
      await end({
        kind: 'accepted',
        by: config.call,
        raw: answer.line,
        packetId,
        note: `${config.call} took it as number ${answer.number}, key ${answer.key}`,
        again: false,
        detail: { boardNumber: answer.number },
      });
    else
      await end({
        kind: 'refused',
        by: config.call,
        raw: answer?.line ?? said.slice(0, 400),
        packetId,
        note: answer ? answer.reason : 'the board did not say that it took the text',
        again: false,
      });
  } catch (error) {
    await end({
      kind: given ? 'interrupted' : 'not taken',
      by: null,
      raw: null,
      note: given
        ? `${(error as Error).message}; the board may or may not have it: its list is asked in the next session, before it is left again`
        : `${(error as Error).message}; nothing of the text was sent`,
      again: true,
    });
    throw error;
  }
}

async function take(context: SessionContext, config: BoardConfig, entry: BoardEntry, shown: string): Promise<void> {
  const message = readMessage(config.profile, entry.number, shown, entry.octets);
  if (!message.ok) {
    context.text(`# ${message.error.reason}\n`);
    return;
  }
  const { value } = message;
  const key = value.key || entry.key;
  const packetId = await context.proof();
  await context.database.transaction(async (manager) => {
    const { itemId } = await recordArrival(manager, {
      externalId: copyKey('board', key, [value.from || entry.from, value.subject || entry.subject, value.text]),
      kind: entry.bulletin ? 'bulletin' : 'text',
      sender: value.from || entry.from,
      addressee: value.to || entry.to,
      subject: value.subject || entry.subject,
      body: value.text,
      at: context.now(),
      bearerId: context.bearerId,
      from: config.call,
      // The board it was left at comes last in its routing lines.
      via: [...new Set([...value.carried.map(({ board }) => board).reverse(), config.call])],
      own: context.own,
      trace: [value.from || entry.from, ...value.carried.map(({ board }) => board)],
      raw:
        value.carried.map(({ at, board, number }) => `carried ${at} by ${board} as ${number}`).join('; ') ||
        shown.slice(0, 400),
      packetId,
      note: `number ${entry.number} of ${config.call}, key ${key}`,
    });
    await offerTaken(manager, context.bearerId, entry.key, itemId);
    await appendEvents(
      manager,
      [
        { type: 'item', data: { id: itemId } },
        { type: 'offer', data: { bearerId: context.bearerId } },
      ],
      context.now(),
    );
  });
}

/** What the board says of the messages that we left: forwarded, read. */
async function noteLeft(context: SessionContext, config: BoardConfig, shown: string): Promise<void> {
  // Asked once: where several are told of, the frame that ended the list proves it for all.
  const packetId = await context.proof();
  for (const left of readLeft(config.profile, shown)) {
    const [leg] = await rowsOf<{ id: string; item_id: string }>(
      context.database,
      `select id, item_id from leg where bearer_id = $1 and detail->>'boardNumber' = $2 order by created_at desc limit 1`,
      [context.bearerId, left.number],
    );
    if (!leg) continue;
    const at = context.now();
    await context.database.transaction(async (manager) => {
      const isNew = await addEvidence(manager, {
        key: `${left.state}:${leg.id}:${left.by}`,
        itemId: leg.item_id,
        legId: leg.id,
        kind: left.state === 'read' ? 'delivered' : 'handed on',
        at,
        bearer: context.bearerId,
        by: left.state === 'read' ? left.by : config.call,
        raw: shown.split(/\r?\n/).find((line) => line.includes(`no ${left.number} `)) ?? null,
        packetId,
        note:
          left.state === 'read'
            ? `${config.call} says that ${left.by} read it, ${instantOfBoard(left.at) ?? left.at}`
            : `forwarded to ${left.by}, ${instantOfBoard(left.at) ?? left.at}`,
      });
      if (isNew) await appendEvents(manager, [{ type: 'item', data: { id: leg.item_id } }], at);
    });
  }
}
