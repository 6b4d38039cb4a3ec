import { connect, type Socket } from 'node:net';
import { BOARD_PROFILES, readListing, readMessage } from '@tombolo/core';
import { createLinkPort, type LinkStream } from '@tombolo/link-stream';
import { mailbox, stations } from '@tombolo/scenario';
import { buildDistrict, type District } from './district';
import { startMailRelay, type MailRelay } from './mail/mail-relay';
import { createWorld, type World } from './sim/world';

const START = Date.UTC(2026, 0, 1);
const profile = BOARD_PROFILES[0]!;

/** Streams hand over in microtasks, the world in its own time: both are turned until it is so. */
async function turn(world: World, done: () => boolean, mostS = 1800): Promise<void> {
  const end = world.now() + mostS * 1000;
  while (!done()) {
    if (world.now() >= end) throw new Error(`it did not happen within ${mostS} simulated seconds`);
    world.runUntil(Math.min(end, Math.max(world.now() + 50, world.nextAt())));
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/** Our own radio, with connections on it. */
function caller(world: World, district: District, call: string = stations.own.call) {
  const port = createLinkPort({ call: () => call, clock: world, send: (frame) => district.modemRadio.send(frame) });
  district.modemRadio.onFrame((frame) => port.receive(frame));
  return port;
}

function listen(stream: LinkStream): () => string {
  let text = '';
  stream.on('data', (octets: Buffer) => (text += octets.toString('utf8')));
  stream.on('error', () => undefined);
  return () => text;
}

describe('a board of the district', () => {
  const build = (seed = 'board') => {
    const world = createWorld(START, seed);
    const district = buildDistrict(world, { scriptStartMs: START, publish: () => undefined, quiet: true });
    return { world, district };
  };

  it('is reached over the fill-in, tells what is there and takes what is left, in the words of its profile', async () => {
    const { world, district } = build();
    world.runUntil(START + 6 * 3600_000);
    const stream = caller(world, district).connect(stations.board.call, [stations.beaconRigg.call]);
    const said = listen(stream);
    const say = async (line: string) => {
      const from = said().length;
      stream.write(`${line}\r\n`);
      await turn(world, () => /(board ready>|subject\?|ends it)\r\n$/.test(said().slice(from)));
      return said().slice(from);
    };
    await turn(world, () => said().includes('board ready>'));
    const { rows } = readListing(profile, await say('unread'));
    expect(rows.map(({ subject, bulletin }) => [subject, bulletin])).toEqual([
      ['Tides until Thursday', true],
      ['Clinic hours on Veil', true],
      ['Shelter list', false],
    ]);
    const shown = readMessage(profile, rows[1]!.number, await say(`open ${rows[1]!.number}`));
    // It was left on Veil and forwarded here.
    expect(shown.ok && shown.value.carried.map(({ board }) => board)).toEqual([
      stations.board.call,
      stations.boardVeil.call,
    ]);
    expect(await say('put bulletin NEWS@ELSEWHERE')).toContain('not kept: bulletins here go to TOPIC@SOUND');
    await say('put private QT6CL@QT6BB-4');
    await say('Cool box');
    expect(await say('It is on the lifeboat.\r\n-')).toMatch(/kept as \d+ key \S+/);
    expect(await say('mine')).toContain('waits here');
    world.runUntil(world.now() + 21 * 60_000);
    expect(await say('mine')).toContain(`forwarded by ${stations.boardVeil.call}`);
    expect(district.boards[1]!.messages().filter(({ subject }) => subject === 'Cool box')).toHaveLength(1);
    stream.end('bye\r\n');
    await turn(world, () => stream.destroyed || stream.readableEnded);
  });

  it('serves ten stations at once, and all get through', async () => {
    const { world, district } = build('ten');
    world.runUntil(START + 6 * 3600_000);
    const calls = Array.from({ length: 10 }, (_, i) => `QT8A${String.fromCharCode(65 + i)}`);
    const ports = calls.map((call) => caller(world, district, call));
    const texts = ports.map((port) => listen(port.connect(stations.board.call, [stations.beaconRigg.call])));
    await turn(world, () => texts.every((text) => text().includes('board ready>')), 3600);
    expect(new Set(texts.map((text) => /Good day (\S+)\./.exec(text())?.[1]))).toEqual(new Set(calls));
  }, 60_000);
});

describe('the mail relay', () => {
  let world: World;
  let relay: MailRelay;
  beforeEach(async () => {
    world = createWorld(START, 'mail');
    relay = await startMailRelay(world, () => undefined);
  });
  afterEach(() => relay.stop());

  /** Says one line after another, each when the other side has answered. */
  async function converse(port: number, lines: string[]): Promise<string> {
    const socket: Socket = connect({ host: '127.0.0.1', port });
    let said = '';
    let next = 0;
    return new Promise((resolve, reject) => {
      socket.on('data', (octets) => {
        said += octets.toString('latin1');
        if (!said.endsWith('\r\n')) return;
        const line = lines[next++];
        if (line === undefined) socket.end();
        else socket.write(`${line}\r\n`);
      });
      socket.on('close', () => resolve(said));
      socket.on('error', reject);
    });
  }
  const message = (id: string) => `Message-ID: <${id}@sound.example>\r\nSubject: x\r\n\r\nText\r\n.`;
  const submit = (from: string, to: string, id: string) =>
    converse(relay.smtpPort, ['EHLO us', `MAIL FROM:<${from}>`, `RCPT TO:<${to}>`, 'DATA', message(id), 'QUIT']);

  it('takes mail of configured senders alone, and the same mail once', async () => {
    expect(await submit('stranger@x.example', 'a@b.example', '1')).toContain('550 that sender is not configured');
    expect(await submit(mailbox.address, 'a@b.com', '2')).toContain('550 no way to that domain');
    expect(await submit(mailbox.address, 'a@b.example', '3')).toContain('250 queued as Q0001');
    expect(await submit(mailbox.address, 'a@b.example', '3')).toContain('taken before');
    expect(relay.taken.map(({ to }) => to)).toEqual([['a@b.example']]);
  });

  it('reports to the mailbox what became of it, and opens that to its owner alone', async () => {
    await submit(mailbox.address, 'nobody@b.example', 'e7');
    world.runUntil(START + 60_000);
    await new Promise((resolve) => setImmediate(resolve));
    const login = [`USER ${mailbox.user}`, `PASS ${mailbox.password}`];
    expect(await converse(relay.popPort, [`USER ${mailbox.user}`, 'PASS wrong', 'LIST', 'QUIT'])).toContain(
      '-ERR say USER and PASS first',
    );
    const said = await converse(relay.popPort, [...login, 'RETR 2', 'DELE 1', 'QUIT']);
    expect(said).toContain('Original-Envelope-Id: e7');
    expect(said).toContain('Action: failed');
    expect(await converse(relay.popPort, [...login, 'STAT', 'QUIT'])).toMatch(/\+OK 1 \d+/);
  });
});
