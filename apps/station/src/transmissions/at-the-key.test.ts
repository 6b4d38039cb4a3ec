import {
  addressLinkFrame,
  airTimeMs,
  decodeFrame,
  DEFAULT_TIMING,
  encodeFrame,
  encodeKiss,
  formatMonitorLine,
  linkFrameOf,
  packetOfFrame,
  parseAddress,
  textOfOctets,
  type LinkFrame,
} from '@tombolo/core';
import type { BearerView, HoldView, ItemDetail, ItemSummary } from '@tombolo/contract';
import { insertBearer } from '../http/routes/bearers';
import type { Station } from '../station';
import { rowsOf } from '../store/database';
import {
  createDatabase,
  eventually,
  forgetCopies,
  itemWhen,
  RADIO,
  startModem,
  startWithModem,
  type Api,
  type FakeModem,
  type TestDatabase,
} from '../testing/harness';
import { textTo } from '../testing/written';
import { startLineFeed } from '../testing/line-feed';

let database: TestDatabase;
let modem: FakeModem;
let station: Station & { api: Api };
let api: Api;
const OWN = 'QT2AR-7';

beforeEach(async () => {
  database = await createDatabase();
  modem = await startModem();
  station = await startWithModem(database.url, modem);
  api = station.api;
});
afterEach(async () => {
  await station.stop();
  await modem.stop();
  await database.drop();
});

const addressOf = (call: string) => {
  const address = parseAddress(call);
  if (!address.ok) throw new Error(call);
  return address.value;
};
/** A frame of a connection from somebody to us, as the modem hears it. */
const hearLink = (from: string, frame: LinkFrame) => {
  const octets = encodeFrame(addressLinkFrame(addressOf(from), addressOf(OWN), [], frame));
  if (octets.ok) modem.hearOctets(encodeKiss(octets.value));
};
const SABM: LinkFrame = { type: 'SABM', command: true, pollFinal: true };
const typesSent = () =>
  modem.sent.map((octets) => {
    const frame = decodeFrame(octets);
    const link = frame.ok ? linkFrameOf(frame.value) : frame;
    return link.ok ? link.value.type : 'UI';
  });
const lineOf = (octets: Uint8Array): string => {
  const frame = decodeFrame(octets);
  const packet = frame.ok ? packetOfFrame(frame.value) : frame;
  return packet.ok ? textOfOctets(formatMonitorLine(packet.value, { escapes: true })) : '';
};
const airSpentMs = () =>
  modem.sent.reduce((sum, frame) => sum + airTimeMs(frame, { ...DEFAULT_TIMING, txDelayMs: 300 }), 0);
/** Until everything that was heard so far is stored and looked at. */
const settled = async (packets: number) => {
  await eventually(
    async () =>
      (await rowsOf<{ n: number }>(station.context.database, 'select count(*)::int as n from reception'))[0]!.n >=
      packets,
    60,
  );
  await new Promise((resolve) => setTimeout(resolve, 1500));
};
const radio = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === RADIO)!;

describe('the gate before every frame', () => {
  it('lets nothing out of a locked transmitter, whoever asks: no answer to a stranger’s connection', async () => {
    await api.patch('/settings', { antennaConfirmed: false });
    hearLink('QT9XX', SABM);
    hearLink('QT9XX', { type: 'DISC', command: true, pollFinal: true });
    modem.hear(`QT1NC>APRS::${OWN}  :Hello{1`);
    await settled(1);
    expect(modem.sent).toEqual([]);
    // Unlocked, a connection that nobody serves is refused, once for each time it is asked for.
    await api.patch('/settings', { antennaConfirmed: true });
    await eventually(() => modem.sent.length === 1);
    hearLink('QT9XX', SABM);
    await eventually(() => typesSent().includes('DM'));
  });

  it('ends what is under way when the transmitter is locked', async () => {
    await api.patch('/settings', { licenceConfirmed: false });
    const answer = await api.post('/items', textTo('QT4LB-8', 'Hi'));
    expect(answer).toMatchObject({ status: 409, title: 'The transmitter is locked' });
    expect(modem.sent).toEqual([]);
  });
});

describe('what goes out without a key pressed', () => {
  it('never takes more air time than its budget, whatever is sent at us; what is left out is counted and told', async () => {
    // Short budgets, so that both edges are met within the test.
    await api.patch('/settings', { automaticAirS: 8, automaticAirPerStationS: 3 });
    const lines: string[] = [];
    for (let n = 0; n < 300; n++) {
      const from = `QT${n % 10}XX-${n % 7}`;
      lines.push(`${from}>APRS::${OWN}  :Text ${n}{${n % 1000}`);
    }
    for (const line of lines) modem.hear(line);
    for (let n = 0; n < 300; n++) hearLink(`QT${n % 10}YY`, SABM);
    await settled(lines.length);
    await eventually(async () => (await radio()).automatic!.spentMs > 6000, 20);
    await new Promise((resolve) => setTimeout(resolve, 3000));
    expect(airSpentMs()).toBeLessThanOrEqual(8000);
    const byStation = new Map<string, number>();
    for (const frame of modem.sent) {
      const decoded = decodeFrame(frame);
      if (!decoded.ok) continue;
      const to = /::(\S+)/.exec(lineOf(frame))?.[1] ?? String(decoded.value.destination.call);
      byStation.set(to, (byStation.get(to) ?? 0) + airTimeMs(frame, { ...DEFAULT_TIMING, txDelayMs: 300 }));
    }
    for (const spent of byStation.values()) expect(spent).toBeLessThanOrEqual(3000);
    const card = await radio();
    expect(card.automatic).toMatchObject({ mostMs: 8000 });
    expect(card.automatic!.spentMs).toBeLessThanOrEqual(8000);
    expect(card.automatic!.leftOut).toBeGreaterThan(100);
  }, 90_000);

  it('is told as left out when it would come too late to tell anything', async () => {
    await api.patch('/settings', { automaticAirS: 1 });
    modem.hear(`QT1NC>APRS::${OWN}  :One{1`);
    await eventually(() => modem.sent.length === 1);
    modem.hear(`QT6CL>APRS::${OWN}  :Two{2`);
    const two = await eventually(async () =>
      (await api.get<{ rows: ItemSummary[] }>('/items')).rows.find(({ body }) => body === 'Two'),
    );
    // As if it had waited for longer than an acknowledgement is of use.
    await station.context.database.query(
      `update leg set created_at = created_at - interval '2 minutes' where role <> 'convey'`,
    );
    const item = await itemWhen(api, two.id, ({ evidence }) => evidence.some(({ kind }) => kind === 'left out'));
    expect(item.status.words).toContain('not acknowledged: it could not go out in time');
    expect(modem.sent).toHaveLength(1);
  });

  it('is sent once while it waits, however often the same message is heard', async () => {
    await api.put('/hold', { held: true });
    for (let n = 0; n < 5; n++) {
      modem.hear(`QT1NC>APRS::${OWN}  :Again{7`);
      await settled(n + 1);
      await forgetCopies(station);
    }
    await api.put('/hold', { held: false });
    await eventually(() => modem.sent.length > 0);
    await new Promise((resolve) => setTimeout(resolve, 2500));
    expect(modem.sent.map(lineOf)).toEqual(['QT2AR-7>APZTOM::QT1NC    :ack7']);
  }, 60_000);

  it('is not caused by a feed that is only listened to, unless the operator says so for it', async () => {
    const feed = await startLineFeed(station);
    const say = (from: number, to: number) => {
      for (let n = from; n < to; n++) feed.say(`QT1NC>APRS,TCPIP*::${OWN}  :Line ${n}{${n}`);
    };
    say(0, 15);
    await settled(15);
    expect(modem.sent).toEqual([]);
    await api.patch('/bearers/feed', { config: { ...feed.config, answerOver: RADIO } });
    await eventually(() => feed.connections() > 1);
    say(20, 21);
    await eventually(() => modem.sent.map(lineOf).some((line) => line.includes(':ack20')));
    await feed.stop();
  }, 60_000);
});

describe('holding everything', () => {
  it('stops at once, names what the equipment has, and goes on where it was', async () => {
    // A radio that is slow to key has what it was given for seconds: until the hold is in force, however busy this machine.
    const radio = async () => (await api.get<BearerView[]>('/bearers')).find(({ id }) => id === RADIO)!;
    const { config, state } = await radio();
    await api.patch(`/bearers/${RADIO}`, { config: { ...config, txDelayMs: 2550 } });
    await eventually(async () => {
      const now = await radio();
      return now.state.link === 'up' && now.state.since !== state.since;
    });
    const first = textTo('QT4LB-8', 'One', { askAcknowledgement: false });
    await api.post('/items', first);
    await eventually(() => modem.sent.length === 1);
    const held: HoldView = await api.put('/hold', { held: true });
    expect(held.heldSince).not.toBeNull();
    expect(held.atEquipment).toMatchObject([{ bearerId: RADIO, line: expect.stringContaining('::QT4LB-8  :One') }]);
    const second = textTo('QT4LB-8', 'Two', { askAcknowledgement: false });
    await api.post('/items', second);
    hearLink('QT9XX', SABM);
    modem.hear(`QT1NC>APRS::${OWN}  :Hello{1`);
    await settled(1);
    expect(modem.sent).toHaveLength(1);
    expect((await api.get<HoldView>('/hold')).waiting).toBeGreaterThanOrEqual(1);
    // It outlives a restart: nobody let it go.
    await station.stop();
    station = await startWithModem(database.url, modem);
    api = station.api;
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect(modem.sent).toHaveLength(1);
    await api.put('/hold', { held: false });
    await itemWhen(api, second.id, (item: ItemDetail) => item.status.rung === 'sent');
  }, 60_000);

  it('holds the frames of a connection too, and none of them is dropped', async () => {
    await insertBearer(station.context, 'board', 'Board', {
      kind: 'board',
      over: RADIO,
      call: 'QT1BB-4',
      path: [],
      profile: (await import('@tombolo/core')).BOARD_PROFILES[0]!,
      forwardsEveryMin: null,
      forwardsAt: null,
    });
    await api.put('/hold', { held: true });
    expect(await api.post('/sessions', { bearerId: 'board' })).toMatchObject({
      status: 409,
      detail: 'Everything is held.',
    });
    await api.put('/hold', { held: false });
    const { id } = await api.post('/sessions', { bearerId: 'board' });
    await eventually(() => typesSent().filter((type) => type === 'SABM').length === 1);
    await api.put('/hold', { held: true });
    const before = modem.sent.length;
    // The tries of the connection go on, and wait.
    await new Promise((resolve) => setTimeout(resolve, 4500));
    expect(modem.sent).toHaveLength(before);
    await api.put('/hold', { held: false });
    await eventually(() => typesSent().filter((type) => type === 'SABM').length >= 2);
    await api.send(`/sessions/${id}`, { method: 'DELETE' });
  }, 60_000);
});

describe('texts', () => {
  it('go out one after another with room for others between, the urgent first, then by their deadline', async () => {
    await api.put('/hold', { held: true });
    const inMin = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();
    for (const [body, precedence, deadline] of [
      ['routine one', 'routine', null],
      ['routine in two hours', 'routine', inMin(120)],
      ['routine in one hour', 'routine', inMin(60)],
      ['priority', 'priority', null],
      ['emergency', 'emergency', null],
    ] as const)
      await api.post('/items', textTo('QT4LB-8', body, { askAcknowledgement: false, precedence, deadline }));
    const at: number[] = [];
    await api.put('/hold', { held: false });
    for (let n = 1; n <= 5; n++) {
      await eventually(() => modem.sent.length >= n, 20);
      at.push(performance.now());
    }
    expect(modem.sent.map((frame) => lineOf(frame).split(':').at(-1))).toEqual([
      'emergency',
      'priority',
      'routine in one hour',
      'routine in two hours',
      'routine one',
    ]);
    // No faster than the air takes them: behind a routine text its own air time and the space for others.
    expect(at[3]! - at[2]!).toBeGreaterThan(airTimeMs(modem.sent[2]!, { ...DEFAULT_TIMING, txDelayMs: 300 }));
  }, 60_000);
});
