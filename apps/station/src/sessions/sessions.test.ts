import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Duplex } from 'node:stream';
import { simpleParser } from 'mailparser';
import { BOARD_PROFILES, checkState, ruleBaseOf, type SymptomId } from '@tombolo/core';
import { newSession, type ItemDetail, type OfferView, type PacketDetail, type SessionView } from '@tombolo/contract';
import type { LinkStream } from '@tombolo/link-stream';
import { insertBearer } from '../http/routes/bearers';
import type { Station } from '../station';
import {
  createDatabase,
  eventually,
  RADIO,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
} from '../testing/harness';
import { onLine, startPeer } from '../testing/link-peer';
import { Dialogue } from './dialogue';
import { createSessions } from './manager';
import { CUT_OFF_STAGE } from './recover';
import { beginAttempt, waitingLegs } from './waiting-legs';
import { Pop3Client } from './mail/pop3';
import { dotStuffed, SmtpClient } from './mail/smtp';
import { mailTo, messageTo } from '../testing/written';

let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Station & { api: Api };
let api: Api;
beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  station = await startWithModem(database.url, modem);
  ({ api } = station);
  await insertBearer(station.context, 'board', 'Board', {
    kind: 'board',
    over: RADIO,
    call: 'QT1BB-4',
    path: [],
    profile: BOARD_PROFILES[0]!,
    forwardsEveryMin: null,
    forwardsAt: null,
  });
  await insertBearer(station.context, 'mail', 'Mail', {
    kind: 'radio-mail',
    over: RADIO,
    call: 'QT1RM-12',
    path: [],
    address: 'qt2ar@sound.example',
    user: 'qt2ar',
    password: 'secret',
  });
});
afterEach(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});

/** The ready check tells whoever has to answer why the last session ended. */
const toldToTheCheck = async (testId: string) =>
  expect(await api.get('/ready/seen')).toContainEqual({
    testId,
    outcomeId: null,
    words: expect.stringMatching(/^The last session, with .*, ended early on [\d-]{10} at \d\d:\d\dZ: .+/),
  });
const named = (symptom: SymptomId, answers: Record<string, string>) => {
  const state = checkState(ruleBaseOf(symptom), answers);
  return state.is === 'verdict' ? state.possible.map(({ causeId }) => causeId) : state.is;
};

const run = async (bearerId: string, more: object = {}, seconds = 25): Promise<SessionView> => {
  const begun = await api.post<SessionView>('/sessions', { bearerId, ...more });
  if (!begun.id) throw new Error(JSON.stringify(begun));
  return eventually(async () => {
    const view = await api.get<SessionView>(`/sessions/${begun.id}`);
    return view.endedAt !== null && view;
  }, seconds);
};
const post = (subject: string, body: string) =>
  api.post<ItemDetail>('/items', messageTo('QT1NC@QT1BB-4', subject, body));
const mail = ({
  to = 'office@ferry.example',
  answers,
  ...more
}: Partial<Parameters<typeof mailTo>[1]> & { to?: string; answers?: string } = {}) =>
  api.post<ItemDetail>('/items', mailTo(to, { subject: 'List', body: 'Sixty-two.\n.\nEnd', ...more }, { answers }));
const kinds = (item: ItemDetail) => item.evidence.map(({ kind }) => kind);

it('takes no board of which a pattern cannot be run, and keeps the one there is', async () => {
  const config = { kind: 'board', over: RADIO, call: 'QT1BB-4', profile: { ...BOARD_PROFILES[0]!, prompt: '(' } };
  expect(await api.post('/bearers', { name: 'Other', config })).toMatchObject({
    status: 422,
    detail: expect.stringContaining('the pattern “prompt” cannot be used'),
  });
  expect(await api.patch('/bearers/board', { config })).toMatchObject({ status: 422 });
  const left = await api.get<{ id: string; config: { profile?: { prompt: string } } }[]>('/bearers');
  expect(left.map(({ id }) => id).sort()).toEqual(['board', 'mail', RADIO].sort());
  expect(left.find(({ id }) => id === 'board')!.config.profile!.prompt).toBe(BOARD_PROFILES[0]!.prompt);
});

/** A board of the test: answers by verb. */
function board(answers: Record<string, (line: string) => string[] | 'hang up'>) {
  return (stream: LinkStream) => {
    stream.write('Board\r\nboard ready>\r\n');
    onLine(stream, (line) => {
      const answer = answers[line.split(' ')[0]!] ?? answers['*'] ?? (() => ['board ready>']);
      const said = answer(line);
      if (said === 'hang up') stream.destroy();
      else if (said.length > 0) stream.write(`${said.join('\r\n')}\r\n`);
    });
  };
}

describe('a session with a board', () => {
  it('leaves, lists and takes, once however often a message is seen', async () => {
    const row = 'no 7 private 12 octets from QT1NC to QT2AR@QT1BB-4 on 2026-11-25 07:40 key k7@QT1BB-4: Blankets';
    const peer = startPeer(
      modem,
      'QT1BB-4',
      board({
        unread: () => [row, 'board ready>'],
        everything: () => [row, 'board ready>'],
        open: () => [
          'key k7@QT1BB-4',
          'from QT1NC',
          'subject Blankets',
          '--- text',
          'Forty.',
          '--- end of 7',
          'board ready>',
        ],
        put: () => ['subject?'],
        Count: () => ['text, a single dash ends it'],
        '-': () => ['kept as 18 key k18@QT1BB-4', 'board ready>'],
        Sixty: () => [],
        mine: () => ['no 18 to QT1NC@QT1BB-4 read by QT1NC on 2026-11-25 08:00', 'board ready>'],
        bye: () => ['good bye'],
      }),
    );
    const item = await post('Count', 'Sixty here');
    expect(await run('board')).toMatchObject({ stage: 'done', problem: null });
    const left = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(kinds(left)).toEqual(['queued', 'intended', 'accepted', 'delivered']);
    expect(left.status.words).toBe('delivered: acknowledged in the name of QT1NC');
    expect(left.custody).toMatchObject([{ what: 'passed', other: 'QT1BB-4' }]);
    // Each points at the frame on record that brought it.
    const proofOf = async (kind: string, of: ItemDetail) => {
      const { packetId } = of.evidence.find((one) => one.kind === kind)!;
      return (await api.get<PacketDetail>(`/packets/${packetId}`)).fields.at(-1)!.words;
    };
    expect(await proofOf('accepted', left)).toContain('kept as 18 key k18@QT1BB-4');
    expect(await proofOf('delivered', left)).toContain('read by QT1NC');

    await run('board', { take: ['k7@QT1BB-4'] });
    const { rows } = await api.get<{ rows: ItemDetail[] }>('/items?direction=in');
    expect(rows).toMatchObject([{ subject: 'Blankets', body: 'Forty.', sender: 'QT1NC' }]);
    expect(await proofOf('delivered', await api.get(`/items/${rows[0]!.id}`))).toContain('end of 7');
    const [offer] = await api.get<OfferView[]>('/offers?bearerId=board');
    expect(offer).toMatchObject({ itemId: rows[0]!.id, gone: false });
    peer.stop();
  });

  it('that hangs up in the middle of a text leaves it open whether the board has it', async () => {
    const peer = startPeer(
      modem,
      'QT1BB-4',
      board({
        put: () => ['subject?'],
        Count: () => ['text, a single dash ends it'],
        '-': () => 'hang up',
        Sixty: () => [],
      }),
    );
    const item = await post('Count', 'Sixty here');
    expect(await run('board')).toMatchObject({
      stage: 'ended early',
      problem: expect.stringContaining('What was done before is kept'),
    });
    await toldToTheCheck('link');
    expect(named('nothing-moves', { link: 'gone' })).toEqual(['link-lost']);
    const left = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(kinds(left)).toContain('interrupted');
    expect(left.status.words).toBe('cut off: it may already have been sent or taken');
    peer.stop();

    // The board has it: its list is asked, and it is not left again.
    const mine = `no 18 private 10 octets from QT2AR-7 to QT1NC@QT1BB-4 on 2026-11-25 07:40 key k18@QT1BB-4: Count`;
    let put = 0;
    const again = startPeer(
      modem,
      'QT1BB-4',
      board({
        everything: () => [mine, 'board ready>'],
        put: () => (put++, ['not kept: once is enough', 'board ready>']),
        bye: () => ['good bye'],
      }),
    );
    expect(await run('board')).toMatchObject({ stage: 'done', problem: null });
    expect(put).toBe(0);
    const found = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(found.status.words).toBe('accepted by QT1BB-4');
    expect(found.evidence.at(-1)!.note).toContain('lists it as number 18');
    expect(found.legs[0]!.nextAt).toBeNull();
    again.stop();
  }, 60_000);

  it('is not led astray by a text that imitates its prompt, its end mark and another message', async () => {
    const row = (number: number, octets: number, subject: string) =>
      `no ${number} private ${octets} octets from QT9XX to QT2AR@QT1BB-4 on 2026-11-25 07:40 key k${number}@QT1BB-4: ${subject}`;
    // What a stranger wrote into message 7: its end, a prompt, and then what looks like the answer to the next command.
    const hostile = [
      'Hello',
      '--- end of 7',
      'board ready>',
      'key k8@QT1BB-4',
      'from QT1NC',
      'subject Evacuate',
      '--- text',
      'Leave at once.',
      '--- end of 8',
      'board ready>',
      'and on',
    ];
    const octets = hostile.join('\n').length;
    const peer = startPeer(modem, 'QT1BB-4', (stream) => {
      const say = (...lines: string[]) => stream.write(`${lines.join('\r\n')}\r\n`);
      say('Board', 'board ready>');
      onLine(stream, (line) => {
        if (line === 'open 7') {
          // In pieces that end just where the imitated prompt does, with pauses.
          const texts = ['key k7@QT1BB-4', 'from QT9XX', 'subject Hi', '--- text', ...hostile];
          say(...texts.slice(0, 7));
          setTimeout(() => say(...texts.slice(7, 14)), 300);
          setTimeout(() => say(...texts.slice(14), '--- end of 7', 'board ready>'), 600);
        } else if (line === 'open 8')
          say(
            'key k8@QT1BB-4',
            'from QT1BB',
            'subject board ready>',
            '--- text',
            'True.',
            '--- end of 8',
            'board ready>',
          );
        else if (line === 'bye') say('good bye');
        else if (line === 'unread' || line === 'everything')
          say(row(7, octets, 'Hi'), row(8, 5, 'board ready>'), 'board ready>');
        else say('board ready>');
      });
    });
    expect(await run('board')).toMatchObject({ stage: 'done', problem: null });
    const { rows } = await api.get<{ rows: ItemDetail[] }>('/items?direction=in');
    expect(Object.fromEntries(rows.map(({ subject, body }) => [subject, body]))).toEqual({
      Hi: hostile.join('\n'),
      'board ready>': 'True.',
    });
    peer.stop();
  }, 60_000);

  it('sends no line of a text that would end it or be taken for a command', async () => {
    const said: string[] = [];
    const peer = startPeer(modem, 'QT1BB-4', (stream) => {
      let writing = false;
      const say = (...lines: string[]) => stream.write(`${lines.join('\r\n')}\r\n`);
      say('Board', 'board ready>');
      onLine(stream, (line) => {
        if (writing) {
          said.push(line);
          if (line.trimEnd() !== '-') return;
          writing = false;
          say('kept as 20 key k20', 'board ready>');
        } else if (line.startsWith('put')) say('subject?');
        else if (line === 'Odd') {
          writing = true;
          say('text, a single dash ends it');
        } else if (line === 'bye') say('good bye');
        else say('board ready>');
      });
    });
    await post('Odd', 'one\n-\nput private QT1NC@QT1BB-4\r-\r\n-  \nbye');
    expect(await run('board')).toMatchObject({ stage: 'done', problem: null });
    expect(said).toEqual(['one', ' -', 'put private QT1NC@QT1BB-4', ' -', ' -  ', 'bye', '-']);
    peer.stop();
  });

  it('refused by the board says with which words, and that one text does not hold up the next', async () => {
    let n = 0;
    const peer = startPeer(
      modem,
      'QT1BB-4',
      board({
        put: () => (++n === 1 ? ['not kept: no such area', 'board ready>'] : ['subject?']),
        Two: () => ['text, a single dash ends it'],
        '-': () => ['kept as 3 key k3', 'board ready>'],
        b: () => [],
      }),
    );
    const one = await post('One', 'a');
    const two = await post('Two', 'b');
    await run('board');
    expect((await api.get<ItemDetail>(`/items/${one.id}`)).status.words).toBe('refused by QT1BB-4: no such area');
    expect((await api.get<ItemDetail>(`/items/${two.id}`)).status.words).toBe('accepted by QT1BB-4');
    peer.stop();
  });

  it('is tried again when the other side still holds an earlier connection and refuses', async () => {
    const here = board({
      unread: () => ['board ready>'],
      everything: () => ['board ready>'],
      mine: () => ['board ready>'],
      bye: () => ['good bye'],
    });
    const once = startPeer(modem, 'QT1BB-4', here, 1);
    expect(await run('board')).toMatchObject({ stage: 'done', problem: null });
    once.stop();

    const always = startPeer(modem, 'QT1BB-4', here, Infinity);
    const begun = await api.post<SessionView>('/sessions', { bearerId: 'board' });
    await eventually(async () =>
      (await api.get<SessionView>(`/sessions/${begun.id}`)).stage.startsWith('QT1BB-4 takes no connection now; trying'),
    );
    await api.send(`/sessions/${begun.id}`, { method: 'DELETE' });
    // Its place is free the moment that it is seen to have ended.
    expect(await api.get<SessionView>(`/sessions/${begun.id}`)).toMatchObject({ stage: 'stopped by you' });
    const next = await api.post<SessionView>('/sessions', { bearerId: 'board' });
    expect(next.id).toBeDefined();
    await api.send(`/sessions/${next.id}`, { method: 'DELETE' });
    always.stop();
  });

  it('takes up at once what a killed process left, and closes its record', async () => {
    const item = await post('Count', 'Sixty here');
    const { database: source } = station.context;
    const leg = item.legs[0]!.id;
    // As a process leaves it that is killed while it hands a message over.
    await source.query(
      `insert into session_run (id, bearer_id, kind, started_at, stage, done_octets, total_octets, record)
       values ($1, 'board', 'exchange', now(), 'leaving', 0, 0, '')`,
      [randomUUID()],
    );
    const [waiting] = await waitingLegs(source, 'board');
    await beginAttempt(source, 'board', waiting!, new Date());
    const peer = startPeer(
      modem,
      'QT1BB-4',
      board({
        everything: () => ['board ready>'],
        put: () => ['subject?'],
        Count: () => ['text, a single dash ends it'],
        '-': () => ['kept as 18 key k18@QT1BB-4', 'board ready>'],
        Sixty: () => [],
        bye: () => ['good bye'],
      }),
    );
    expect(await run('board')).toMatchObject({ stage: 'done', problem: null });
    const left = await api.get<ItemDetail>(`/items/${item.id}`);
    expect(left.legs[0]!.id).toBe(leg);
    expect(kinds(left)).toEqual(expect.arrayContaining(['interrupted', 'accepted']));
    expect(left.status.words).toBe('accepted by QT1BB-4');
    const runs = await api.get<SessionView[]>('/sessions?bearerId=board');
    expect(runs.map(({ stage }) => stage)).toEqual(['done', CUT_OFF_STAGE]);
    peer.stop();
  }, 60_000);

  it('waits for a place that is taken for a moment, as by whoever closes what a killed process left', async () => {
    const tried: boolean[] = [];
    const sessions = createSessions({
      database: station.context.database,
      settings: station.context.settings,
      hold: async () => {
        tried.push(tried.length >= 2);
        return tried.length > 2;
      },
      free: async () => undefined,
      connect: () => {
        throw new Error('no modem here');
      },
      closed: () => null,
      stored: async () => undefined,
      now: station.context.now,
      log: () => undefined,
    });
    const begun = await sessions.start(newSession.parse({ bearerId: 'board' }));
    expect(tried).toEqual([false, false, true]);
    expect(await eventually(async () => (await sessions.view(begun.id)).problem)).toContain('no modem here');
    await sessions.stopAll();
  });

  it('that does not answer ends in words; only one session runs at a time; the transmitter may be locked', async () => {
    const begun = await api.post<SessionView>('/sessions', { bearerId: 'board' });
    expect(await api.post('/sessions', { bearerId: 'board' })).toMatchObject({
      status: 409,
      title: 'A session runs already',
    });
    await api.send(`/sessions/${begun.id}`, { method: 'DELETE' });
    expect(await api.get<SessionView>(`/sessions/${begun.id}`)).toMatchObject({
      stage: 'stopped by you',
      problem: null,
    });
    await api.patch('/settings', { antennaConfirmed: false });
    expect(await api.post('/sessions', { bearerId: 'board' })).toMatchObject({
      status: 409,
      title: 'The transmitter is locked',
    });
  });
});

/** A gateway of the test: SMTP lines answered by verb, a mailbox of given messages. */
function gateway(options: {
  onText?: (stream: LinkStream) => void;
  box?: { uid: string; text: string; gone?: boolean }[];
}) {
  const taken: string[] = [];
  let envelope = '';
  /** A text of the mailbox, which may name the envelope of what was taken last. */
  const textOf = (entry: { text: string } | undefined) => entry!.text.replaceAll('ENVELOPE', envelope);
  const serve = (stream: LinkStream) => {
    const offer = () => stream.write('QT1RM-12 mail: say SMTP, POP3 or BYE\r\n');
    const say = (...lines: string[]) => stream.write(lines.map((line) => `${line}\r\n`).join(''));
    let mode: 'choose' | 'smtp' | 'data' | 'pop' = 'choose';
    let text = '';
    const box = options.box ?? [];
    onLine(stream, (line) => {
      const [verb = '', number = ''] = line.split(' ');
      if (mode === 'choose') {
        if (line === 'SMTP') {
          mode = 'smtp';
          say('220 ready');
        } else if (line === 'POP3') {
          mode = 'pop';
          say('+OK ready');
        } else stream.end();
      } else if (mode === 'data') {
        if (line !== '.') return void (text += `${line}\r\n`);
        if (options.onText) return options.onText(stream);
        taken.push(text);
        text = '';
        mode = 'smtp';
        say('250 queued as A1');
      } else if (mode === 'smtp') {
        envelope = /ENVID=(\S+)/.exec(line)?.[1] ?? envelope;
        if (verb === 'EHLO') say('250-gateway', '250-PIPELINING', '250-DSN', '250 SIZE 100000');
        else if (verb === 'DATA') {
          mode = 'data';
          say('354 go on');
        } else if (verb === 'QUIT') {
          mode = 'choose';
          say('221 bye');
          offer();
        } else say('250 ok');
      } else {
        const entry = box[Number(number) - 1];
        if (verb === 'LIST') say('+OK', ...box.map((entry, i) => `${i + 1} ${textOf(entry).length}`), '.');
        else if (verb === 'UIDL') say('+OK', ...box.map(({ uid }, i) => `${i + 1} ${uid}`), '.');
        else if (verb === 'TOP') say('+OK', ...textOf(entry).split('\r\n\r\n')[0]!.split('\r\n'), '', '.');
        else if (verb === 'RETR' && entry!.gone) say('-ERR gone meanwhile');
        else if (verb === 'RETR')
          say(
            '+OK',
            ...textOf(entry)
              .split('\r\n')
              .map((part) => part.replace(/^\./, '..')),
            '.',
          );
        else if (verb === 'QUIT') {
          mode = 'choose';
          say('+OK bye');
          offer();
        } else say('+OK');
      }
    });
    offer();
  };
  return { serve, taken };
}

describe('a session with a mail gateway', () => {
  it('submits what waits as two general mail libraries read it', async () => {
    const { serve, taken } = gateway({});
    const peer = startPeer(modem, 'QT1RM-12', serve);
    const item = await mail({
      subject: 'Zählung',
      attachments: [{ name: 'list.csv', type: 'text/csv', base64: Buffer.from('a,b\n').toString('base64') }],
    });
    expect(await run('mail')).toMatchObject({ stage: 'done' });
    expect((await api.get<ItemDetail>(`/items/${item.id}`)).status.words).toBe('accepted by QT1RM-12');
    const octets = Buffer.from(taken[0]!.replace(/(^|\r\n)\.\./g, '$1.'), 'utf8');
    const parsed = await simpleParser(octets);
    expect(parsed).toMatchObject({ subject: 'Zählung', messageId: `<${item.id}@sound.example>` });
    expect(parsed.text?.trim()).toBe('Sixty-two.\n.\nEnd');
    const folder = mkdtempSync(join(tmpdir(), 'tombolo-eml-'));
    try {
      const file = join(folder, 'message.eml');
      writeFileSync(file, Buffer.from(await (await api.send(`/items/${item.id}/message.eml`)).arrayBuffer()));
      // Source: the email package of Python.
      const script =
        'import email,email.policy,json,sys\nm=email.message_from_binary_file(open(sys.argv[1],"rb"),policy=email.policy.default)\nprint(json.dumps([m["subject"],m["to"],[p.get_filename() for p in m.iter_attachments()],m.get_body().get_content(),len(m.defects)]))';
      const read = JSON.parse(
        execFileSync('/usr/bin/python3', ['-c', script, file], { encoding: 'utf8' }),
      ) as unknown[];
      expect(read.slice(0, 3)).toEqual(['Zählung', 'office@ferry.example', ['list.csv']]);
      expect(String(read[3]).trim()).toBe('Sixty-two.\n.\nEnd');
      expect(read[4]).toBe(0);
    } finally {
      rmSync(folder, { recursive: true });
    }
    peer.stop();
  });

  it('cut off in the middle of DATA sends the same message again next time', async () => {
    const cut = startPeer(modem, 'QT1RM-12', gateway({ onText: (stream) => stream.destroy() }).serve);
    const item = await mail();
    expect(await run('mail')).toMatchObject({ stage: 'ended early' });
    await toldToTheCheck('farewell');
    expect(named('mail-ends', { farewell: 'cut' })).toEqual(['link-lost']);
    expect(kinds(await api.get<ItemDetail>(`/items/${item.id}`))).toEqual(['queued', 'intended', 'interrupted']);
    cut.stop();
    const { serve, taken } = gateway({});
    const peer = startPeer(modem, 'QT1RM-12', serve);
    expect(await run('mail')).toMatchObject({ stage: 'done' });
    expect(taken[0]).toContain(`Message-ID: <${item.id}@sound.example>`);
    expect((await api.get<ItemDetail>(`/items/${item.id}`)).status.words).toBe('accepted by QT1RM-12');
    peer.stop();
  }, 60_000);

  it('fetches what is chosen, leaves the rest, survives what changed meanwhile, and knows an answer and a report', async () => {
    const sent = await mail();
    const report = [
      'From: postmaster@sound.example',
      'Subject: Delivered',
      'Message-ID: <r1@sound.example>',
      'Content-Type: multipart/report; report-type=delivery-status; boundary=b',
      '',
      '--b',
      'Content-Type: text/plain',
      '',
      'Delivered.',
      '--b',
      'Content-Type: message/delivery-status',
      '',
      'Original-Envelope-Id: ENVELOPE',
      'Reporting-MTA: dns; mail.sound.example',
      '',
      'Final-Recipient: rfc822; office@ferry.example',
      'Action: delivered',
      'Status: 2.0.0',
      '',
      '--b--',
    ].join('\r\n');
    const answer = `From: office@ferry.example\r\nSubject: Re: List\r\nMessage-ID: <a1@ferry.example>\r\nIn-Reply-To: <${sent.id}@sound.example>\r\n\r\nThank you.\r\n.dot\r\n`;
    const odd = 'From: \xff\xfe\r\nSubject: \r\nMessage-ID: <o1@x.example>\r\n\r\nBody';
    const { serve } = gateway({
      box: [
        { uid: 'u1', text: report },
        { uid: 'u2', text: answer },
        { uid: 'u3', text: odd },
        { uid: 'u4', text: 'Subject: gone\r\n\r\nx', gone: true },
        { uid: 'u5', text: 'Subject: left\r\n\r\nx' },
      ],
    });
    const peer = startPeer(modem, 'QT1RM-12', serve);
    await run('mail');
    expect((await api.get<OfferView[]>('/offers?bearerId=mail')).map(({ key }) => key).sort()).toEqual([
      'u1',
      'u2',
      'u3',
      'u4',
      'u5',
    ]);
    expect(await run('mail', { take: ['u1', 'u2', 'u3', 'u4'] })).toMatchObject({ stage: 'done', problem: null });
    const after = await api.get<ItemDetail>(`/items/${sent.id}`);
    expect(kinds(after).slice(-2).sort()).toEqual(['answered', 'delivered']);
    expect(after.status.words).toBe('answered by office@ferry.example');
    const { rows } = await api.get<{ rows: ItemDetail[] }>('/items?direction=in');
    expect(rows.map(({ subject }) => subject).sort()).toEqual(['(no subject)', 'Delivered', 'Re: List']);
    expect(rows.find(({ subject }) => subject === 'Re: List')!.body).toBe('Thank you.\n.dot');
    const offers = await api.get<OfferView[]>('/offers?bearerId=mail');
    expect(
      offers
        .filter(({ itemId }) => itemId !== null)
        .map(({ key }) => key)
        .sort(),
    ).toEqual(['u1', 'u2', 'u3']);
    peer.stop();
  }, 60_000);

  it('keeps what reuses the identifier of another mail, however long it is, and deletes nothing that it did not store', async () => {
    const text = (body: string, id = '<same@y.example>') =>
      `From: a@y.example\r\nSubject: One\r\nDate: Wed, 25 Nov 2026 07:40:00 +0000\r\nMessage-ID: ${id}\r\n\r\n${body}`;
    const parts = Array.from(
      { length: 60 },
      (_, i) => `--b\r\nContent-Type: text/plain; name=${i}.txt\r\nContent-Disposition: attachment\r\n\r\n${i}\r\n`,
    );
    const many = `From: a@y.example\r\nSubject: Many\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n${parts.join('')}--b--\r\n`;
    const { serve } = gateway({
      box: [
        { uid: 'v1', text: text('First') },
        { uid: 'v2', text: text('Second, another text') },
        { uid: 'v3', text: text('First') },
        { uid: 'v4', text: many },
        { uid: 'v5', text: text('Long', `<${'x'.repeat(12_000)}@y.example>`) },
      ],
    });
    const peer = startPeer(modem, 'QT1RM-12', serve);
    expect(await run('mail', { take: ['v1', 'v2', 'v3', 'v4', 'v5'] }, 50)).toMatchObject({
      stage: 'done',
      problem: null,
    });
    const { rows } = await api.get<{ rows: ItemDetail[] }>('/items?direction=in');
    expect(rows.map(({ body }) => body)).toEqual(expect.arrayContaining(['First', 'Second, another text', 'Long']));
    expect(rows).toHaveLength(4);
    peer.stop();
  }, 60_000);

  it('believes a report only from the gateway that has the mail, under the envelope that only that knows', async () => {
    const sent = await mail();
    const report = (
      envelope: string,
      type = 'multipart/report; report-type=delivery-status; boundary=b',
      to = 'office@ferry.example',
    ) =>
      [
        'From: postmaster@sound.example',
        'Subject: Delivered',
        `Message-ID: <${randomUUID()}@sound.example>`,
        `Content-Type: ${type}`,
        '',
        ...(type.startsWith('multipart') ? ['--b', 'Content-Type: message/delivery-status', ''] : []),
        `Original-Envelope-Id: ${envelope}`,
        'Reporting-MTA: dns; mail.sound.example',
        '',
        `Final-Recipient: rfc822; ${to}`,
        'Action: delivered',
        'Status: 2.0.0',
        '',
        ...(type.startsWith('multipart') ? ['--b--'] : []),
      ].join('\r\n');
    const { serve } = gateway({
      box: [
        // Whoever got the mail knows its Message-ID, which holds the number of the item.
        { uid: 'f1', text: report(sent.id) },
        { uid: 'f2', text: report('ENVELOPE', 'text/plain') },
        { uid: 'f3', text: report('ENVELOPE', undefined, 'somebody@else.example') },
        { uid: 'f4', text: report('ENVELOPE') },
      ],
    });
    const peer = startPeer(modem, 'QT1RM-12', serve);
    expect(await run('mail', { take: ['f1', 'f2', 'f3'] })).toMatchObject({ stage: 'done', problem: null });
    expect((await api.get<ItemDetail>(`/items/${sent.id}`)).status.words).toBe('accepted by QT1RM-12');
    expect(await run('mail', { take: ['f4'] })).toMatchObject({ stage: 'done', problem: null });
    expect((await api.get<ItemDetail>(`/items/${sent.id}`)).status.rung).toBe('delivered');
    peer.stop();
  }, 60_000);

  it('never sees a mail that is encrypted, too large, or would smuggle in a header', async () => {
    expect(await mail({ body: '-----BEGIN PGP MESSAGE-----' })).toMatchObject({
      status: 422,
      title: 'It looks encrypted',
    });
    expect(await mail({ subject: 'a\r\nBcc: x@y.example' })).toMatchObject({ status: 422 });
    expect(await mail({ to: 'a@b.example>\r\nRCPT TO:<c@d.example' })).toMatchObject({ status: 422 });
    const large = Buffer.alloc(2_000_000).toString('base64');
    expect(
      await mail({ attachments: [{ name: 'x.bin', type: 'application/octet-stream', base64: large }] }),
    ).toMatchObject({
      status: 422,
      title: 'Too large for radio',
      detail: expect.stringMatching(/about \d+ minutes/),
    });
    expect(await mail({ attachments: [{ name: 'x.gpg', type: 'application/pgp', base64: 'AAAA' }] })).toMatchObject({
      title: 'An attachment is encrypted',
    });
    expect(await api.get('/items')).toMatchObject({ rows: [] });
  });
});

/** A conversation with a script: what the other side says, in order, whatever is sent. */
function scripted(says: string[]): { dialogue: Dialogue; sent: () => string } {
  let sent = '';
  const stream = new Duplex({
    read: () => undefined,
    write(chunk: Buffer, _encoding, done) {
      sent += chunk.toString('latin1');
      done();
    },
  });
  for (const line of says) stream.push(line);
  return {
    dialogue: new Dialogue(stream as unknown as LinkStream, { onText: () => undefined, onProgress: () => undefined }),
    sent: () => sent,
  };
}

describe('the mail protocols', () => {
  it('submit as the example of RFC 2920 §4.2 does, in one group', async () => {
    const { dialogue, sent } = scripted([
      '220 innosoft.com SMTP service ready\r\n',
      '250-innosoft.com\r\n250 PIPELINING\r\n',
      '250 sender <mrose@dbc.mtview.ca.us> OK\r\n250 recipient <ned@innosoft.com> OK\r\n250 recipient <dan@innosoft.com> OK\r\n354 enter mail, end with line containing only "."\r\n',
      '250 message sent\r\n',
      '221 goodbye\r\n',
    ]);
    const smtp = new SmtpClient(dialogue);
    await smtp.open('dbc.mtview.ca.us');
    const mailOf = {
      from: 'mrose@dbc.mtview.ca.us',
      to: ['ned@innosoft.com', 'dan@innosoft.com'],
      octets: Buffer.from('Subject: x\r\n\r\n.dot\r\n'),
      envelopeId: 'e1',
    };
    expect(await smtp.submit(mailOf, () => undefined)).toMatchObject({ kind: 'accepted', refusedTo: [] });
    await smtp.quit();
    expect(sent()).toBe(
      'EHLO dbc.mtview.ca.us\r\nMAIL FROM:<mrose@dbc.mtview.ca.us>\r\nRCPT TO:<ned@innosoft.com>\r\nRCPT TO:<dan@innosoft.com>\r\nDATA\r\nSubject: x\r\n\r\n..dot\r\n.\r\nQUIT\r\n',
    );
  });

  it('submit in a chunk as RFC 3030 §4.1 does where the server offers it, with DSN and SIZE', async () => {
    const { dialogue, sent } = scripted([
      '220 cnri.reston.va.us SMTP service ready\r\n',
      '250-cnri.reston.va.us\r\n250-PIPELINING\r\n250-DSN\r\n250-SIZE 1000\r\n250 CHUNKING\r\n',
      '250 ok\r\n250 ok\r\n250 7 octets received\r\n',
    ]);
    const smtp = new SmtpClient(dialogue);
    await smtp.open('ymir.claremont.edu');
    expect(
      await smtp.submit(
        { from: 'a@b.example', to: ['c@d.example'], octets: Buffer.from('.x\r\n.\r\n'), envelopeId: 'e1' },
        () => undefined,
      ),
    ).toMatchObject({ kind: 'accepted' });
    expect(sent()).toContain(
      'MAIL FROM:<a@b.example> SIZE=7 RET=HDRS ENVID=e1\r\nRCPT TO:<c@d.example> NOTIFY=SUCCESS,FAILURE\r\nBDAT 7 LAST\r\n.x\r\n.\r\n',
    );
    expect(
      await smtp.submit(
        { from: 'a@b.example', to: ['c@d.example'], octets: Buffer.alloc(1001), envelopeId: 'e2' },
        () => undefined,
      ),
    ).toMatchObject({ kind: 'refused', reply: expect.stringContaining('at most 1000') });
    expect(
      await smtp.submit(
        { from: 'a@b.example', to: ['c@d.example> SIZE=1\r\nX'], octets: Buffer.alloc(1), envelopeId: 'e3' },
        () => undefined,
      ),
    ).toMatchObject({ kind: 'refused' });
  });

  it('refuse when nobody may have it, and end the group that is open (RFC 2920 §3.1)', async () => {
    const { dialogue, sent } = scripted([
      '220 x\r\n250 PIPELINING\r\n'.replace('250 ', '250-x\r\n250 '),
      '250 ok\r\n550 no such mailbox\r\n354 go on\r\n554 no recipients\r\n250 reset\r\n',
    ]);
    const smtp = new SmtpClient(dialogue);
    await smtp.open('x');
    expect(
      await smtp.submit(
        { from: 'a@b.example', to: ['c@d.example'], octets: Buffer.from('x'), envelopeId: 'e' },
        () => undefined,
      ),
    ).toEqual({ kind: 'refused', reply: '550 no such mailbox' });
    expect(sent().endsWith('DATA\r\n.\r\nRSET\r\n')).toBe(true);
  });

  it('pick up as the example session of RFC 1939 §10 does', async () => {
    const { dialogue, sent } = scripted([
      '+OK POP3 server ready <1896.697170952@dbc.mtview.ca.us>\r\n',
      '+OK name is a valid mailbox\r\n+OK mrose has 2 messages (320 octets)\r\n',
      '+OK 2 messages (320 octets)\r\n1 120\r\n2 200\r\n.\r\n+OK\r\n1 whqtswO00WBw418f9t5JxYwZ\r\n2 QhdPYR:00WBw1Ph7x7\r\n.\r\n',
      '+OK 120 octets\r\nSubject: x\r\n\r\n..dot\r\n.\r\n',
      '+OK message 1 deleted\r\n+OK dewey POP3 server signing off\r\n',
    ]);
    const pop = new Pop3Client(dialogue);
    await pop.open('mrose', 'secret');
    expect(await pop.list()).toEqual([
      { number: 1, octets: 120, uid: 'whqtswO00WBw418f9t5JxYwZ' },
      { number: 2, octets: 200, uid: 'QhdPYR:00WBw1Ph7x7' },
    ]);
    expect((await pop.retrieve(1)).toString()).toBe('Subject: x\r\n\r\n.dot\r\n');
    await pop.remove(1);
    await pop.quit();
    expect(sent()).toBe('USER mrose\r\nPASS secret\r\nLIST\r\nUIDL\r\nRETR 1\r\nDELE 1\r\nQUIT\r\n');
  });

  it('stuff dots at the beginning of lines alone', () => {
    expect(dotStuffed(Buffer.from('.a\n..b\nc.d')).toString()).toBe('..a\r\n...b\r\nc.d\r\n.\r\n');
  });
});
