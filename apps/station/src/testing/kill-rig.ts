import { spawn, type ChildProcess } from 'node:child_process';
import { BOARD_PROFILES, decodeFrame, decodeInformation, packetOfFrame } from '@tombolo/core';
import type { ItemDetail, SessionView } from '@tombolo/contract';
import type { LinkStream } from '@tombolo/link-stream';
import { FAILPOINTS, type Failpoint } from '../store/failpoints';
import { apiOf, createDatabase, eventually, openSettings, startModem, type Api } from './harness';
import { mailTo, meshText, messageTo, textTo } from './written';
import { onLine, startPeer } from './link-peer';
import { meshConfig, startMeshNode } from './mesh-node';

const OWN = '01D1-0002';
const FARM = '01D1-0005';

/** What one trial found wrong; empty when everything held. */
export interface Trial {
  readonly failpoint: Failpoint;
  readonly hit: number;
  /** Whether the process was killed there at all. */
  readonly killed: boolean;
  readonly lost: string[];
  readonly doubled: string[];
  readonly stuck: string[];
  readonly overClaimed: string[];
}

/** Kinds of failpoints by what passes them. */
const needs = (failpoint: Failpoint, what: 'board' | 'mail') =>
  failpoint.startsWith(what) || failpoint.startsWith('session:');

/** The station as a process, killed at a failpoint or not. */
async function startProcess(databaseUrl: string, failpoint: string): Promise<{ url: string; child: ChildProcess }> {
  const child = spawn(process.execPath, ['--enable-source-maps', process.env.TOMBOLO_STATION!], {
    env: { ...process.env, TOMBOLO_DATABASE_URL: databaseUrl, TOMBOLO_PORT: '0', TOMBOLO_FAILPOINT: failpoint },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const url = await new Promise<string>((resolve, reject) => {
    child.once('exit', () => reject(new Error('the station did not start')));
    child.stdout!.on('data', (data: Buffer) => {
      const found = /listening (\S+)/.exec(String(data));
      if (found) resolve(found[1]!);
    });
  });
  return { url, child };
}

const ended = (child: ChildProcess) => child.exitCode !== null || child.signalCode !== null;

/** A board that keeps what is left there, and has one message for us. */
function keepingBoard(kept: { subject: string; text: string }[]) {
  const there = 'no 7 private 6 octets from QT1NC to QT2AR@QT1BB-4 on 2026-11-25 07:40 key k7@QT1BB-4: Blankets';
  return (stream: LinkStream) => {
    const say = (...lines: string[]) => stream.write(`${lines.join('\r\n')}\r\n`);
    let subject: string | null = null;
    let lines: string[] | null = null;
    let asked = false;
    say('Board', 'board ready>');
    onLine(stream, (line) => {
      if (lines) {
        if (line !== '-') return void lines.push(line);
        kept.push({ subject: subject!, text: lines.join('\n') });
        lines = null;
        return say(`kept as ${100 + kept.length} key k${100 + kept.length}`, 'board ready>');
      }
      if (asked) {
        asked = false;
        subject = line;
        lines = [];
        return say('text, a single dash ends it');
      }
      if (line.startsWith('put')) {
        asked = true;
        return say('subject?');
      }
      if (line === 'open 7')
        return say(
          'key k7@QT1BB-4',
          'from QT1NC',
          'subject Blankets',
          '--- text',
          'Forty.',
          '--- end of 7',
          'board ready>',
        );
      if (line === 'bye') return say('good bye');
      const own = kept.map(
        ({ subject: of, text }, i) =>
          `no ${101 + i} private ${text.length} octets from QT2AR-7 to QT1NC@QT1BB-4 on 2026-11-25 07:40 key k${101 + i}: ${of}`,
      );
      say(...(line === 'unread' ? [there] : line === 'everything' ? [there, ...own] : []), 'board ready>');
    });
  };
}

/** A gateway that takes mail and has one for us, deleted when it is told so. */
function keepingGateway(taken: string[], box: { text: string; deleted: boolean }[]) {
  return (stream: LinkStream) => {
    const offer = () => stream.write('QT1RM-12 mail: say SMTP, POP3 or BYE\r\n');
    const say = (...lines: string[]) => stream.write(lines.map((line) => `${line}\r\n`).join(''));
    let mode: 'choose' | 'smtp' | 'data' | 'pop' = 'choose';
    let text = '';
    const marked = new Set<number>();
    onLine(stream, (line) => {
      const [verb = '', number = ''] = line.split(' ');
      const there = box.filter(({ deleted }) => !deleted);
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
        taken.push(/^Message-ID: (.*)$/im.exec(text)?.[1] ?? text);
        text = '';
        mode = 'smtp';
        say('250 queued as A1');
      } else if (mode === 'smtp') {
        if (verb === 'EHLO') say('250-gateway', '250 PIPELINING');
        else if (verb === 'DATA') {
          mode = 'data';
          say('354 go on');
        } else if (verb === 'QUIT') {
          mode = 'choose';
          say('221 bye');
          offer();
        } else say('250 ok');
      } else if (verb === 'LIST') say('+OK', ...there.map((mail, i) => `${i + 1} ${mail.text.length}`), '.');
      else if (verb === 'UIDL') say('+OK', ...there.map((_, i) => `${i + 1} u1`), '.');
      else if (verb === 'TOP')
        say('+OK', ...there[Number(number) - 1]!.text.split('\r\n\r\n')[0]!.split('\r\n'), '', '.');
      else if (verb === 'RETR') say('+OK', ...there[Number(number) - 1]!.text.split('\r\n'), '.');
      else if (verb === 'DELE') {
        marked.add(Number(number) - 1);
        say('+OK');
      } else if (verb === 'QUIT') {
        for (const i of marked) there[i]!.deleted = true;
        mode = 'choose';
        say('+OK bye');
        offer();
      } else say('+OK');
    });
    offer();
  };
}

/**
 * Kills the station at a failpoint in the middle of texts, mesh texts, a session with a board and one with a mail gateway, starts it again,
 * and looks whether anything was lost, is shown twice to whoever it was for, hangs for ever, or is claimed although it did not happen.
 */
export async function killTrial(failpoint: Failpoint, hit: number): Promise<Trial> {
  const database = await createDatabase();
  const modem = await startModem();
  const node = await startMeshNode(OWN, FARM, 'Sound');
  const kept: { subject: string; text: string }[] = [];
  const mails: string[] = [];
  const box = [
    {
      text: 'From: office@ferry.example\r\nSubject: Hello\r\nMessage-ID: <h1@ferry.example>\r\n\r\nHello.',
      deleted: false,
    },
  ];
  const peers = [
    startPeer(modem, 'QT1BB-4', keepingBoard(kept)),
    startPeer(modem, 'QT1RM-12', keepingGateway(mails, box)),
  ];
  // The lifeboat acknowledges every numbered text that it hears, and shows each number once.
  const shown = new Map<string, number>();
  const frames = new Map<string, number>();
  modem.onSent((octets) => {
    const frame = decodeFrame(octets);
    const packet = frame.ok ? packetOfFrame(frame.value) : frame;
    const information = packet.ok ? decodeInformation(packet.value.info, packet.value.destination) : packet;
    if (!information.ok || information.value.kind !== 'message') return;
    const { text, number } = information.value;
    frames.set(text, (frames.get(text) ?? 0) + 1);
    if (number === null) return;
    const key = `${number}/${text}`;
    if (!shown.has(key)) shown.set(key, shown.size);
    setTimeout(() => modem.hear(`QT4LB-8>APRS::QT2AR-7  :ack${number}`), 30);
  });
  // The farm acknowledges what is for it; the node sends each packet number once.
  const onMesh = new Map<string, Set<string>>();
  node.onSent((message) => {
    const { content, number, addressee } = message;
    if (content?.kind !== 'text') return;
    const key = `${content.n}/${content.text}`;
    onMesh.set(key, (onMesh.get(key) ?? new Set()).add(number));
    if (addressee === FARM) setTimeout(() => void node.hear({ content: { kind: 'acknowledgement', of: number } }), 30);
  });

  let running = await startProcess(database.url, `${failpoint}@${hit}`);
  let api: Api = apiOf({ url: running.url });
  let killed = false;
  const children = [running.child];
  let restarting: Promise<void> | null = null;
  /** Several questions may find it dead at the same time: it is started again once. */
  const restart = () =>
    (restarting ??= (async () => {
      killed = true;
      running = await startProcess(database.url, '');
      children.push(running.child);
      api = apiOf({ url: running.url });
    })().finally(() => (restarting = null)));
  /** Asks again when the process was killed under the question. */
  const persist = async <T>(ask: () => Promise<T>): Promise<T> => {
    for (let tries = 0; ; tries++) {
      try {
        return await ask();
      } catch (error) {
        if (tries > 3) throw error;
        await eventually(() => restarting !== null || ended(running.child), 10);
        await restart();
      }
    }
  };
  /** How each session ended, for whoever has to find out why something hangs. */
  const sessionsEnded: string[] = [];
  const session = async (bearerId: string) => {
    await eventually(
      async () =>
        (await persist(() => api.get<{ id: string; state: { link: string } }[]>('/bearers'))).find(
          ({ id }) => id === radioId,
        )?.state.link === 'up',
      20,
    );
    // Until what the killed process left is closed, its session counts as one that runs.
    const begun = await eventually(async () => {
      const asked = await persist(() =>
        api.post<SessionView>('/sessions', { bearerId, take: bearerId === mailId ? ['u1'] : [] }),
      );
      if (!asked.id) sessionsEnded.push(`not begun: ${JSON.stringify(asked)}`);
      return asked.id ? asked : undefined;
    }, 20);
    await eventually(async () => {
      const view = await persist(() => api.get<SessionView>(`/sessions/${begun.id}`));
      if (view.endedAt !== null) sessionsEnded.push(`${view.stage}: ${view.problem}`);
      return view.endedAt !== null;
    }, 60);
  };
  let radioId = '';
  let boardId = '';
  let mailId = '';
  try {
    await api.patch('/settings', { ...openSettings, retry: { firstS: 2, factor: 1, capS: 2, tries: 6, jitter: 0 } });
    const add = async (name: string, config: object) =>
      (await api.post<{ id: string }>('/bearers', { name, config })).id;
    radioId = await add('Radio', { kind: 'kiss-tcp', host: '127.0.0.1', port: modem.port });
    boardId = await add('Board', { kind: 'board', over: radioId, call: 'QT1BB-4', profile: BOARD_PROFILES[0] });
    mailId = await add('Mail', {
      kind: 'radio-mail',
      over: radioId,
      call: 'QT1RM-12',
      address: 'own@sound.example',
      user: 'own',
      password: 'x',
    });
    const meshId = await add('Mesh', meshConfig(node.port, OWN));
    await eventually(async () => {
      const links = await api.get<{ id: string; state: { link: string } }[]>('/bearers');
      return links.filter(({ id, state }) => (id === radioId || id === meshId) && state.link === 'up').length === 2;
    }, 45);

    const asked = textTo('QT4LB-8', 'Numbered', { bearerId: radioId, path: [] });
    const plain = textTo('QT4LB-8', 'Plain', { bearerId: radioId, path: [], askAcknowledgement: false });
    const toNode = meshText(FARM, 'To the farm', { bearerId: meshId });
    const toAll = meshText(null, 'To all', { bearerId: meshId });
    const post = messageTo('QT1NC@QT1BB-4', 'Count', 'Sixty here', { bearerId: boardId });
    const mail = mailTo('office@ferry.example', { subject: 'List', body: 'Sixty-two.' }, { bearerId: mailId });
    await persist(() => api.post('/items', asked));
    await persist(() => api.post('/items', plain));
    await persist(() => api.post('/items', toNode));
    await persist(() => api.post('/items', toAll));
    modem.hear('QT1NC>APRS::QT2AR-7  :Incoming{11');
    if (needs(failpoint, 'board')) await persist(() => api.post('/items', post));
    if (needs(failpoint, 'mail')) await persist(() => api.post('/items', mail));
    if (needs(failpoint, 'board')) await session(boardId);
    if (needs(failpoint, 'mail')) await session(mailId);
    // Where it was not met yet, it may still be: by an acknowledgement, by what is heard again.
    if (!killed) await eventually(() => ended(running.child), 6).catch(() => undefined);
    if (ended(running.child)) await restart();
    if (needs(failpoint, 'board')) await session(boardId);
    if (needs(failpoint, 'mail')) await session(mailId);
    // A sender that got no acknowledgement sends again.
    for (let n = 0; n < 2; n++) modem.hear('QT1NC>APRS::QT2AR-7  :Incoming{11');

    const item = (id: string) => persist(() => api.get<ItemDetail>(`/items/${id}`));
    /** Nothing more is to come of it: proven, sent where no proof is asked, or known not to be known. */
    const settled = (one: ItemDetail) =>
      one.status?.rung === 'delivered' ||
      (one.id !== asked.id &&
        one.id !== toNode.id &&
        (one.evidence ?? []).some(({ kind }) => kind === 'sent' || kind === 'interrupted'));
    const allOf = async (ids: readonly string[]) => {
      const all = await Promise.all(ids.map(item));
      return all.every(settled);
    };
    const within = (seconds: number, ids: readonly string[]) =>
      eventually(
        async () => (await allOf(ids)) || new Promise<false>((resolve) => setTimeout(resolve, 200, false)),
        seconds,
      );
    await within(45, [asked.id, plain.id, toNode.id, toAll.id]).catch(() => undefined);
    // Whatever would go out a second time waits before these.
    const after = textTo('QT4LB-8', 'Afterwards', { bearerId: radioId, path: [] });
    const afterOnMesh = meshText(FARM, 'Afterwards', { bearerId: meshId });
    await persist(() => api.post('/items', after));
    await persist(() => api.post('/items', afterOnMesh));
    await eventually(
      async () =>
        (await Promise.all([after.id, afterOnMesh.id].map(item))).every((one) => one.status?.rung === 'delivered'),
      45,
    );

    const trial: Trial = { failpoint, hit, killed, lost: [], doubled: [], stuck: [], overClaimed: [] };
    const states = {
      asked: await item(asked.id),
      plain: await item(plain.id),
      mesh: await item(toNode.id),
      toAll: await item(toAll.id),
    };
    for (const [name, one] of Object.entries(states)) {
      if (!one.status) trial.lost.push(name);
      else if (one.status.outcome === null && one.status.rung === 'queued')
        trial.stuck.push(`${name}: ${one.status.words}`);
    }
    if (states.asked.status?.rung !== 'delivered') trial.lost.push(`numbered text: ${states.asked.status?.words}`);
    if ([...shown.keys()].filter((key) => key.endsWith('/Numbered')).length > 1) trial.doubled.push('numbered text');
    if ((frames.get('Plain') ?? 0) > 1) trial.doubled.push('plain text');
    if (states.plain.evidence?.some(({ kind }) => kind === 'sent') && !frames.get('Plain'))
      trial.overClaimed.push('plain text');
    if ((frames.get('Plain') ?? 0) === 0 && !states.plain.evidence?.some(({ kind }) => kind === 'interrupted'))
      trial.lost.push('plain text');
    if (states.mesh.status?.rung !== 'delivered') trial.lost.push(`mesh text: ${states.mesh.status?.words}`);
    if (states.mesh.status?.rung === 'delivered' && ![...onMesh.keys()].some((key) => key.endsWith('/To the farm')))
      trial.overClaimed.push('mesh text');
    const all = [...onMesh].find(([key]) => key.endsWith('/To all'))?.[1];
    if (!all) trial.lost.push('mesh text to all');
    else if (all.size > 1) trial.doubled.push('mesh text to all');
    const incoming = (await persist(() => api.get<{ rows: ItemDetail[] }>('/items?direction=in&limit=200'))).rows;
    const count = (body: string) => incoming.filter((one) => one.body === body).length;
    if (count('Incoming') === 0) trial.lost.push('arrived text');
    if (count('Incoming') > 1) trial.doubled.push('arrived text');
    if (needs(failpoint, 'board')) {
      const left = await item(post.id);
      const copies = kept.filter(({ subject }) => subject === 'Count').length;
      if (copies === 0) trial.lost.push('message on the board');
      if (copies > 1) trial.doubled.push('message on the board');
      if (left.status.rung !== 'accepted')
        trial.stuck.push(`message on the board: ${left.status.words} (${sessionsEnded.join('; ')})`);
      if (left.status.rung === 'accepted' && copies === 0) trial.overClaimed.push('message on the board');
      if (count('Forty.') !== 1) trial[count('Forty.') === 0 ? 'lost' : 'doubled'].push('message from the board');
    }
    if (needs(failpoint, 'mail')) {
      const sent = await item(mail.id);
      const ids = new Set(mails);
      if (ids.size === 0) trial.lost.push('mail');
      if (ids.size > 1) trial.doubled.push('mail');
      if (sent.status.rung !== 'accepted') trial.stuck.push(`mail: ${sent.status.words} (${sessionsEnded.join('; ')})`);
      if (sent.status.rung === 'accepted' && ids.size === 0) trial.overClaimed.push('mail');
      if (count('Hello.') !== 1) trial[count('Hello.') === 0 ? 'lost' : 'doubled'].push('fetched mail');
    }
    return trial;
  } finally {
    await restarting;
    for (const child of children) child.kill('SIGKILL');
    for (const peer of peers) peer.stop();
    await node.stop();
    await modem.stop();
    await database.drop();
  }
}

/** Which hit of a failpoint a trial kills at: by a seed, so that a run can be had again. */
export const hitOf = (failpoint: Failpoint, seed: number): number =>
  /^(outbox|ingest)/.test(failpoint) ? 1 + ((seed * 7 + FAILPOINTS.indexOf(failpoint) * 3) % 4) : 1;
