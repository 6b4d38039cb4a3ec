import { createLinkPort, type LinkStream } from '@tombolo/link-stream';
import type { Radio } from '../radio/channel';
import type { World } from '../sim/world';

/** A message as a board keeps it. */
export interface BoardMail {
  readonly key: string;
  readonly bulletin: boolean;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly writtenMs: number;
  /** Boards that had it, the one it was left at first. */
  readonly carried: { readonly board: string; readonly atMs: number; readonly number: number }[];
  readBy: { call: string; atMs: number } | null;
  forwardedTo: { board: string; atMs: number } | null;
}

interface Kept extends BoardMail {
  readonly number: number;
  readonly unreadBy: Set<string>;
}

export interface Board {
  readonly call: string;
  /** Takes a message; false for one that it has already. */
  take(mail: Omit<BoardMail, 'readBy' | 'forwardedTo'>): boolean;
  messages(): readonly BoardMail[];
  /** Hands what the other board has not got to it. */
  forwardTo(other: Board): void;
}

const two = (n: number) => String(n).padStart(2, '0');
const minute = (ms: number): string => {
  const at = new Date(ms);
  return `${at.getUTCFullYear()}-${two(at.getUTCMonth() + 1)}-${two(at.getUTCDate())} ${two(at.getUTCHours())}:${two(at.getUTCMinutes())}`;
};
const baseOf = (call: string) => call.split('-')[0]!;

/** A bulletin board on the simulated channel, with a plain command language of its own. */
export function runBoard(world: World, radio: Radio, name: string, firstNumber: number): Board {
  const { call } = radio.station;
  const kept: Kept[] = [];
  let next = firstNumber;

  const board: Board = {
    call,
    take(mail) {
      if (kept.some(({ key }) => key === mail.key)) return false;
      const number = next++;
      const carried = [...mail.carried, { board: call, atMs: world.now(), number }];
      kept.push({ ...mail, carried, number, readBy: null, forwardedTo: null, unreadBy: new Set() });
      return true;
    },
    messages: () => kept,
    forwardTo(other) {
      for (const mail of kept) {
        const goes = mail.bulletin || mail.to.endsWith(`@${other.call}`);
        if (!goes || mail.carried.some(({ board: had }) => had === other.call) || mail.forwardedTo) continue;
        other.take(mail);
        mail.forwardedTo = { board: other.call, atMs: world.now() };
      }
    },
  };

  const serve = (stream: LinkStream) => {
    const guest = stream.peer;
    const forGuest = (mail: Kept) => !mail.bulletin && baseOf(mail.to.split('@')[0]!) === baseOf(guest);
    const visible = () => kept.filter((mail) => mail.bulletin || forGuest(mail) || baseOf(mail.from) === baseOf(guest));
    const say = (...lines: string[]) => stream.write(lines.map((line) => `${line}\r\n`).join(''));
    const ready = () => stream.write('board ready>\r\n');
    const row = (mail: Kept) =>
      `no ${mail.number} ${mail.bulletin ? 'bulletin' : 'private'} ${mail.text.length} octets from ${mail.from} to ${mail.to} on ${minute(mail.writtenMs)} key ${mail.key}: ${mail.subject}`;
    let writing: { bulletin: boolean; to: string; subject: string | null; lines: string[] } | null = null;

    const command = (line: string) => {
      const [verb = '', ...rest] = line.trim().split(/\s+/);
      const rows = visible();
      switch (verb.toLowerCase()) {
        case 'unread':
          say(...rows.filter((mail) => !mail.unreadBy.has(guest) && (mail.bulletin || forGuest(mail))).map(row));
          return ready();
        case 'everything':
          say(...rows.map(row));
          return ready();
        case 'open': {
          const mail = rows.find(({ number }) => String(number) === rest[0]);
          if (!mail) {
            say(`nothing with that number`);
            return ready();
          }
          mail.unreadBy.add(guest);
          if (forGuest(mail)) mail.readBy ??= { call: guest, atMs: world.now() };
          say(
            `message ${mail.number}`,
            `key ${mail.key}`,
            `from ${mail.from}`,
            `to ${mail.to}`,
            `date ${minute(mail.writtenMs)}`,
            `subject ${mail.subject}`,
            ...[...mail.carried].reverse().map((had) => `carried ${minute(had.atMs)} by ${had.board} as ${had.number}`),
            '--- text',
            ...mail.text.split('\n').map((text) => (text.startsWith('--- end of') ? ` ${text}` : text)),
            `--- end of ${mail.number}`,
          );
          return ready();
        }
        case 'put': {
          const [kind, to] = rest;
          if ((kind !== 'private' && kind !== 'bulletin') || !to) {
            say('not kept: say put private WHO@BOARD or put bulletin TOPIC@AREA');
            return ready();
          }
          if (kind === 'bulletin' && !/^[A-Z0-9]{1,10}@SOUND$/.test(to)) {
            say('not kept: bulletins here go to TOPIC@SOUND');
            return ready();
          }
          writing = { bulletin: kind === 'bulletin', to, subject: null, lines: [] };
          return void say('subject?');
        }
        case 'mine':
          say(
            ...kept
              .filter((mail) => baseOf(mail.from) === baseOf(guest))
              .map((mail) =>
                mail.readBy
                  ? `no ${mail.number} to ${mail.to} read by ${mail.readBy.call} on ${minute(mail.readBy.atMs)}`
                  : mail.forwardedTo
                    ? `no ${mail.number} to ${mail.to} forwarded by ${mail.forwardedTo.board} on ${minute(mail.forwardedTo.atMs)}`
                    : `no ${mail.number} to ${mail.to} waits here`,
              ),
          );
          return ready();
        case 'bye':
          say('good bye');
          stream.end();
          return;
        case 'help':
          say('unread, everything, open NUMBER, put private WHO@BOARD, put bulletin TOPIC@SOUND, mine, bye');
          return ready();
        default:
          say(`“${verb}” is nothing that this board knows; help tells what it does`);
          return ready();
      }
    };

    const write = (line: string) => {
      if (!writing) return;
      if (writing.subject === null) {
        writing.subject = line.trim();
        return void say('text, a single dash ends it');
      }
      if (line.trimEnd() !== '-') return void writing.lines.push(line);
      const { bulletin, to, subject, lines } = writing;
      writing = null;
      const key = `${(next * 7919 + 4660).toString(16)}@${call}`;
      board.take({
        key,
        bulletin,
        from: guest,
        to,
        subject,
        text: lines.join('\n'),
        writtenMs: world.now(),
        carried: [],
      });
      say(`kept as ${kept.at(-1)!.number} key ${key}`);
      ready();
    };

    let rest = '';
    stream.on('data', (octets: Buffer) => {
      const lines = (rest + octets.toString('utf8')).split(/\r\n|\r|\n/);
      rest = lines.pop() ?? '';
      for (const line of lines)
        if (writing) write(line);
        else if (line.trim() !== '') command(line);
    });
    stream.on('end', () => stream.end());
    stream.on('error', () => undefined);
    const unread = visible().filter((mail) => forGuest(mail) && !mail.unreadBy.has(guest)).length;
    say(`${name} ${call}. Good day ${guest}.`, `${unread} unread for you, ${kept.length} in all.`);
    ready();
  };

  const port = createLinkPort({
    call: () => call,
    clock: world,
    send: (frame) => radio.send(frame),
    onIncoming: serve,
  });
  radio.onFrame((frame) => port.receive(frame));
  return board;
}
