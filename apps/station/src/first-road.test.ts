import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import WebSocket from 'ws';
import type { ItemDetail, ItemSummary, LiveEvent, PacketSummary } from '@tombolo/contract';
import { decodeFrame, formatMonitorLine, packetOfFrame, textOfOctets, encodeKiss, octetsOfText } from '@tombolo/core';
import {
  answersAreOut,
  apiOf,
  createDatabase,
  eventually,
  forgetCopies,
  itemWhen,
  RADIO,
  startModem,
  startTestStation,
  startWithModem,
  type Api,
  type FakeModem,
} from './testing/harness';
import { textTo } from './testing/written';
import type { Station } from './station';

const lineOf = (octets: Uint8Array) => {
  const frame = decodeFrame(octets);
  const packet = frame.ok ? packetOfFrame(frame.value) : frame;
  if (!packet.ok) throw new Error(packet.error.reason);
  return textOfOctets(formatMonitorLine(packet.value, { escapes: true }));
};

let database: Awaited<ReturnType<typeof createDatabase>>;
let modem: FakeModem;
let station: Station & { api: Api };
let api: Api;

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

const kinds = (item: ItemDetail) => item.evidence.map((record) => record.kind);
const received = async () => (await api.get<{ rows: ItemSummary[] }>('/items?direction=in')).rows;

describe('a text out and its proof back', () => {
  it('goes from queued to delivered, each rung with the packet that proves it', async () => {
    const text = textTo('QT4LB-8', 'Fuel low');
    const queued = await api.post<ItemDetail>('/items', text);
    // It may be on its way already when this is answered: that it was queued first is on record.
    expect(queued.evidence[0]).toMatchObject({ kind: 'queued' });
    await eventually(() => modem.sent.length === 1);
    const line = lineOf(modem.sent[0]!);
    expect(line).toMatch(/^QT2AR-7>APZTOM,WIDE1-1,WIDE2-1::QT4LB-8 {2}:Fuel low\{[0-9A-Z]{2}$/);
    const number = line.slice(-2);
    await itemWhen(api, text.id, (item) => item.status.rung === 'sent');

    modem.hear(line.replace('WIDE1-1,', 'QT0BR-1*,'));
    modem.hear(line.replace('WIDE1-1,WIDE2-1', 'QT0BR-1,QT0TH-3*'));
    const relayed = await itemWhen(
      api,
      text.id,
      (item) => kinds(item).filter((kind) => kind === 'relayed').length === 2,
    );
    expect(relayed.status.words).toBe('relayed by QT0BR-1, QT0TH-3; not acknowledged yet');
    expect(relayed.causeway!.stones.map((stone) => stone.label)).toEqual(['QT2AR-7', 'QT0BR-1', 'QT0TH-3', 'QT4LB-8']);

    modem.hear(`QT4LB-8>APRS,QT0TH-3*,WIDE2-1::QT2AR-7  :ack${number}`);
    const delivered = await itemWhen(api, text.id, (item) => item.status.rung === 'delivered');
    expect(delivered.status.proof).toMatchObject({ by: 'QT4LB-8', raw: expect.stringContaining(`:ack${number}`) });
    expect(delivered.causeway!.strips.map((strip) => strip.state)).toEqual(Array(3).fill('acknowledged'));
    expect(delivered.evidence.find(({ kind }) => kind === 'delivered')!.note).toContain('under the call QT4LB-8');
    expect(delivered.heap).toBe('arrived');
    expect(delivered.legs[0]!.nextAt).toBeNull();

    modem.hear(`QT4LB-8>APRS,QT0TH-3*::QT2AR-7  :Will do{07}${number}`);
    // The reply is an item of ours, and its number goes back as an acknowledgement in the older form, whole.
    const [reply] = await eventually(async () => {
      const rows = await received();
      return rows.length > 0 && rows;
    });
    expect(reply).toMatchObject({ body: 'Will do', sender: 'QT4LB-8', number: '07', heap: 'needs you' });
    // The text itself may have gone out again before its acknowledgement came.
    const outWith = (words: string) => eventually(() => modem.sent.map(lineOf).find((sent) => sent.includes(words)));
    expect(await outWith(':ack07')).toBe(`QT2AR-7>APZTOM,WIDE1-1,WIDE2-1::QT4LB-8  :ack07}${number}`);
    await itemWhen(api, reply!.id, (item) => item.status.words === 'arrived, acknowledged');

    // Our answer acknowledges theirs once more, for free.
    await api.post('/items', textTo('QT4LB-8', 'Thanks', { answers: reply!.id }));
    expect(await outWith(':Thanks')).toMatch(/:Thanks\{..\}07$/);
    expect((await api.get<ItemDetail>(`/items/${reply!.id}`)).heap).toBe('arrived');
  });

  it('tries again with the same number, stops at the limit, says so, and starts again by hand', async () => {
    const text = textTo('QT6CL', 'Boat comes');
    await api.post('/items', text);
    await eventually(() => modem.sent.length === 1);
    modem.hear(lineOf(modem.sent[0]!).replace('WIDE1-1,WIDE2-1', 'QT0BR-1,QT0TH-3*'));
    const expired = await itemWhen(api, text.id, (item) => item.status.outcome === 'expired');
    expect(new Set(modem.sent.map(lineOf)).size).toBe(1);
    expect(modem.sent).toHaveLength(3);
    expect(expired.status.words).toBe('relayed by QT0BR-1, QT0TH-3, not acknowledged; tries used up');
    expect(expired.heap).toBe('needs you');
    expect(expired.causeway!.strips.at(-1)!.state).toBe('broken');

    const again = await api.post<ItemDetail>(`/items/${text.id}/actions`, { action: 'retry' });
    expect(again.status.outcome).toBeNull();
    await eventually(() => modem.sent.length === 4);
    expect(lineOf(modem.sent[3]!)).toBe(lineOf(modem.sent[0]!));
    const number = lineOf(modem.sent[0]!).slice(-2);
    modem.hear(`QT6CL>APRS,QT0TH-3*::QT2AR-7  :ack${number}`);
    await itemWhen(api, text.id, (item) => item.status.rung === 'delivered');
  });

  it('begins no try after the deadline, and says when that passed', async () => {
    await api.patch('/settings', { retry: { firstS: 60, factor: 1, capS: 60, tries: 5, jitter: 0 } });
    const past = textTo('QT6CL', 'Boat comes', { deadline: new Date(Date.now() - 1000).toISOString() });
    expect(await api.post('/items', past)).toMatchObject({ status: 422, title: 'Its deadline has passed' });
    const deadline = new Date(Date.now() + 1500).toISOString();
    const text = textTo('QT6CL', 'Boat comes', { deadline, precedence: 'priority' });
    expect(await api.post<ItemDetail>('/items', text)).toMatchObject({ deadline, precedence: 'priority' });
    const over = await itemWhen(api, text.id, (item) => item.status.outcome === 'expired');
    expect(over.status.words).toBe('sent, nothing heard; its deadline passed');
    expect(over.evidence.find(({ kind }) => kind === 'overdue')!.note).toMatch(/until .*; 1 try went out before$/);
    expect(modem.sent).toHaveLength(1);
    expect(over.heap).toBe('needs you');
    // Whoever tries again by hand has decided anew.
    const again = await api.post<ItemDetail>(`/items/${text.id}/actions`, { action: 'retry' });
    expect(again).toMatchObject({ deadline: null, status: { outcome: null } });
    await eventually(() => modem.sent.length === 2);
  });

  it('takes a refusal as the end, a stranger’s acknowledgement as nothing', async () => {
    const text = textTo('QT6CL', 'Boat comes');
    await api.post('/items', text);
    await eventually(() => modem.sent.length === 1);
    const number = lineOf(modem.sent[0]!).slice(-2);
    modem.hear(`QT9ZZ>APRS::QT2AR-7  :ack${number}`);
    modem.hear(`QT6CL>APRS::QT1NC    :ack${number}`);
    modem.hear(`QT6CL>APRS::QT2AR-7  :rej${number}`);
    const refused = await itemWhen(api, text.id, (item) => item.status.outcome === 'refused');
    expect(kinds(refused)).not.toContain('delivered');
    expect(refused.status.words).toContain('refused by QT6CL');
  });

  it('sends a text without acknowledgement once and then says what is known', async () => {
    const text = textTo('QT4LB-8', 'No hurry', { askAcknowledgement: false, path: [] });
    await api.post('/items', text);
    const sent = await itemWhen(api, text.id, (item) => item.status.rung === 'sent');
    expect(lineOf(modem.sent[0]!)).toBe('QT2AR-7>APZTOM::QT4LB-8  :No hurry');
    expect(sent).toMatchObject({ number: null, legs: [{ tries: 1 }] });
    expect(sent.status.wouldProve).toBe('our own packet heard repeated');
  });

  it('queues once when it is asked twice, cancels before sending, and keeps a record', async () => {
    await station.context.bearersChanged();
    modem.cut();
    await modem.stop();
    const text = textTo('QT4LB-8', 'Twice');
    const [first, second] = await Promise.all([
      api.post<ItemDetail>('/items', text),
      api.post<ItemDetail>('/items', text),
    ]);
    expect((first.legs ?? second.legs).length).toBe(1);
    await api.post(`/items/${text.id}/actions`, { action: 'cancel' });
    const cancelled = await api.get<ItemDetail>(`/items/${text.id}`);
    expect(cancelled.status).toMatchObject({ outcome: 'cancelled', words: 'cancelled before it was sent' });
    modem = await startModem(modem.port);
    await eventually(() => modem.connections() > 0, 20);
    const next = textTo('QT4LB-8', 'After');
    await api.post('/items', next);
    await itemWhen(api, next.id, (item) => item.status.rung === 'sent');
    expect(modem.sent.map(lineOf).filter((line) => line.includes('Twice'))).toEqual([]);
  });
});

describe('messages to us', () => {
  it('acknowledges once for all copies, again for a late repeat, and shows it once', async () => {
    const message = (path: string) => `QT1NC>APRS${path}::QT2AR-7  :Roll call{5`;
    for (const path of ['', ',QT0BR-1*', ',QT0BR-1,QT0TH-3*']) modem.hear(message(path));
    await eventually(() => modem.sent.length === 1);
    expect(lineOf(modem.sent[0]!)).toBe('QT2AR-7>APZTOM::QT1NC    :ack5');
    // The first copy is answered before the last one is stored.
    const packets = await eventually(async () => {
      const heard = await api.get<{ rows: PacketSummary[] }>('/packets?station=QT1NC');
      return heard.rows[0]?.copies.length === 3 ? heard : undefined;
    });
    expect(packets.rows).toHaveLength(1);
    expect(packets.rows[0]!.copies.map((copy) => copy.words)).toEqual([
      'heard direct',
      'heard via QT0BR-1',
      'heard via QT0BR-1, then QT0TH-3',
    ]);

    // The same again after the window: set the first packet back in time instead of waiting half a minute.
    await answersAreOut(station);
    await forgetCopies(station);
    modem.hear(message(',QT0BR-1*'));
    await eventually(() => modem.sent.length === 2);
    expect(lineOf(modem.sent[1]!)).toContain(':ack5');
    expect(await received()).toHaveLength(1);
    expect((await api.get<{ rows: PacketSummary[] }>('/packets?station=QT1NC')).rows).toHaveLength(2);
  });

  it('tells the same number from different stations apart', async () => {
    modem.hear('QT1NC>APRS::QT2AR-7  :Hello{1');
    modem.hear('QT7SH-5>APRS::QT2AR-7  :Hello{1');
    await eventually(async () => (await received()).length === 2);
    await eventually(() => modem.sent.length === 2);
    expect(new Set(modem.sent.map(lineOf))).toEqual(
      new Set(['QT2AR-7>APZTOM::QT1NC    :ack1', 'QT2AR-7>APZTOM::QT7SH-5  :ack1']),
    );
  });

  it('rejects when the store is full, and takes the message when there is room again', async () => {
    await api.patch('/settings', { storeLimit: 1 });
    modem.hear('QT1NC>APRS::QT2AR-7  :One{1');
    await eventually(() => modem.sent.length === 1);
    modem.hear('QT1NC>APRS::QT2AR-7  :Two{2');
    await eventually(() => modem.sent.length === 2);
    expect(lineOf(modem.sent[1]!)).toContain(':rej2');
    await answersAreOut(station);
    const [one] = (await received()).filter((item) => item.body === 'One');
    await api.post(`/items/${one!.id}/actions`, { action: 'file' });
    await forgetCopies(station);
    modem.hear('QT1NC>APRS::QT2AR-7  :Two{2');
    await eventually(() => modem.sent.length === 3);
    expect(lineOf(modem.sent[2]!)).toContain(':ack2');
    const twos = (await received()).filter((item) => item.body === 'Two');
    expect(twos.map((item) => item.heap).sort()).toEqual(['filed', 'needs you']);
  });

  it('keeps a bulletin once however often it is sent', async () => {
    modem.hear('QT1NC>APRS::BLN1     :Gale');
    await eventually(async () => (await received()).length === 1);
    await forgetCopies(station);
    modem.hear('QT1NC>APRS::BLN1     :Gale');
    modem.hear('QT1NC>APRS::BLN1     :Storm');
    await eventually(async () => (await received()).length === 2);
    expect((await received()).map((item) => [item.kind, item.heap])).toEqual(Array(2).fill(['bulletin', 'arrived']));
    expect(modem.sent).toEqual([]);
  });
});

describe('the lock on the transmitter', () => {
  it('holds texts and acknowledgements until the questions are answered', async () => {
    await api.patch('/settings', { antennaConfirmed: false });
    const answer = await api.send('/items', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(textTo('QT4LB-8', 'Hi')),
    });
    expect(answer.status).toBe(409);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(await answer.json()).toMatchObject({
      type: 'tombolo:transmit-locked',
      detail: expect.stringContaining('antenna'),
    });
    modem.hear('QT1NC>APRS::QT2AR-7  :Hello{1');
    await eventually(async () => (await received()).length === 1);
    expect(modem.sent).toEqual([]);
    await api.patch('/settings', { antennaConfirmed: true });
    await eventually(() => modem.sent.length === 1);
    expect(lineOf(modem.sent[0]!)).toContain(':ack1');
  });
  it('asks for the licence again when the call sign changes', async () => {
    expect(await api.patch('/settings', { call: 'QT3AB' })).toMatchObject({ call: 'QT3AB', licenceConfirmed: false });
  });
});

describe('the link', () => {
  it('comes back by itself after a cut, says why it is down, and sends what waited', async () => {
    modem.cut();
    const port = modem.port;
    await modem.stop();
    const down = await eventually(async () => {
      const [bearer] = await api.get('/bearers');
      return (
        bearer.state.link === 'down' && bearer.state.reason === 'nothing listens at that address and port' && bearer
      );
    });
    expect(Date.parse(down.state.nextTryAt)).toBeGreaterThan(Date.parse(down.state.since));
    const text = textTo('QT4LB-8', 'Waiting');
    await api.post('/items', text);
    expect((await api.get('/bearers'))[0].queued).toBe(1);
    modem = await startModem(port);
    await itemWhen(api, text.id, (item) => item.status.rung === 'sent', 20);
    expect((await api.get('/bearers'))[0]).toMatchObject({ state: { link: 'up', reason: null } });
  });

  it('records what it cannot understand and loses no neighbour', async () => {
    modem.hearOctets(octetsOfText('hello modem\r\n'));
    modem.hearOctets(encodeKiss(octetsOfText('not a frame')));
    modem.hearOctets(encodeKiss(Uint8Array.of(1, 2, 3), 0, 6));
    modem.hear('QT1NC>APRS:!9999.99N/07201.75W-');
    modem.hear('QT1NC>APRS:>zero \\x00 and <script>alert(1)</script>');
    await eventually(async () => (await api.get('/packets?text=script')).rows.length === 1);
    const { rows } = await api.get('/failures');
    expect(rows.map((row: { reason: string }) => row.reason)).toEqual([
      expect.stringContaining('99.99 minutes'),
      expect.stringContaining('KISS command 6'),
      expect.stringMatching(/call sign|address/),
      'octets before the first FEND',
    ]);
    const failure = rows.find((row: { reason: string }) => row.reason.includes('FEND'));
    expect(Buffer.from(failure.rawHex, 'hex').toString()).toBe('hello modem\r\n');
  });

  it('is owned by one of two stations and taken over when that one ends', async () => {
    const second = await startTestStation(database.url);
    try {
      await second.context.bearersChanged();
      expect(modem.connections()).toBe(1);
      const text = textTo('QT4LB-8', 'From the second');
      await apiOf(second).post('/items', text);
      await itemWhen(api, text.id, (item) => item.status.rung === 'sent');
      await station.stop();
      const after = textTo('QT4LB-8', 'After take-over');
      await apiOf(second).post('/items', after);
      await itemWhen(apiOf(second), after.id, (item) => item.status.rung === 'sent');
      expect(modem.sent.filter((frame) => lineOf(frame).includes('After take-over'))).toHaveLength(1);
    } finally {
      station = { ...(await startTestStation(database.url)), api };
      await second.stop();
    }
  });
});

describe('stations', () => {
  it('are listed with distance and bearing from our own position', async () => {
    modem.hear('QT0TH-3>APRS:!4114.55N/04327.36W#Digipeater');
    const [tarnHead] = await eventually(async () => {
      const stations = await api.get('/stations');
      return stations.length > 0 && stations;
    });
    expect(tarnHead).toMatchObject({ call: 'QT0TH-3', how: 'direct', comment: 'Digipeater', symbol: '/#' });
    // 41.269 N 43.285 W to 41.2425 N 43.456 W with GeodSolve: 14.63 km.
    expect(tarnHead.distanceKm).toBeCloseTo(14.63, 1);
    expect(tarnHead.azimuthDeg).toBeCloseTo(258.4, 0);
  });
});

describe('how a station is heard', () => {
  it('is told from the most direct of the copies, whichever came first', async () => {
    modem.hear('QT1GW-10>APRS:}QT1NC>APRS,TCPIP,QT1GW-10*:>up');
    modem.hear('QT1NC>APRS,QT0BR-1*:>up');
    await eventually(async () => (await api.get('/packets?station=QT1NC')).rows[0]?.copies.length === 2);
    expect(await api.get('/stations/QT1NC')).toMatchObject({ how: 'relayed', words: 'heard via QT0BR-1' });
  });
});

describe('the live feed', () => {
  const open = (query: string, headers: Record<string, string> = {}) => {
    const socket = new WebSocket(`${station.url.replace('http', 'ws')}/api/v1/live${query}`, { headers });
    const events: LiveEvent[] = [];
    socket.on('message', (data) => {
      const event = JSON.parse(String(data)) as LiveEvent;
      // Whether it stores is told first, and has no number of its own.
      if (event.type !== 'storing') events.push(event);
    });
    return {
      socket,
      events,
      opened: new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject)),
    };
  };

  it('resumes from the last number without a gap, and tells a console that was away too long to reload', async () => {
    const first = open('');
    await first.opened;
    modem.hear('QT1NC>APRS:>one');
    await eventually(() => first.events.length > 0);
    const { seq } = first.events[0]!;
    first.socket.close();
    modem.hear('QT1NC>APRS:>two');
    modem.hear('QT1NC>APRS:>three');
    await eventually(async () => (await api.get('/packets?text=three')).rows.length === 1);
    const second = open(`?after=${seq}`);
    await eventually(() => second.events.length >= 1 && second.events.at(-1)!.type === 'packet');
    expect(second.events.map((event) => event.seq)).toEqual(second.events.map((_, i) => seq + 1 + i));
    second.socket.close();
    await station.context.database.query('delete from event where seq < (select seq from event_head)');
    const late = open('?after=0');
    await eventually(() => late.events.length > 0);
    expect(late.events[0]!.type).toBe('reset');
    late.socket.close();
  });

  it('refuses foreign pages and rebound names', async () => {
    await expect(open('', { origin: 'http://elsewhere.example' }).opened).rejects.toThrow('403');
    await expect(open('', { host: 'elsewhere.example' }).opened).rejects.toThrow('403');
    const foreign = await api.send('/health', { headers: { origin: 'http://elsewhere.example' } });
    expect(foreign.status).toBe(403);
    expect(await api.get('/health')).toMatchObject({ name: 'tombolo' });
  });
});

describe('a station killed at any moment', () => {
  /** Starts the station as a process, so that it can be killed without warning. */
  const startProcess = async (): Promise<{ url: string; kill: () => Promise<void> }> => {
    const child = spawn(process.execPath, ['--import', 'tsx', join(__dirname, 'main.ts')], {
      env: { ...process.env, TOMBOLO_DATABASE_URL: database.url, TOMBOLO_PORT: '0' },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    const url = await new Promise<string>((resolve, reject) => {
      child.once('exit', () => reject(new Error('the station did not start')));
      child.stdout.on('data', (data: Buffer) => {
        const found = /listening (\S+)/.exec(String(data));
        if (found) resolve(found[1]!);
      });
    });
    return {
      url,
      kill: () =>
        new Promise((resolve) => {
          child.removeAllListeners('exit').once('exit', () => resolve());
          child.kill('SIGKILL');
        }),
    };
  };

  it('loses nothing, sends an unnumbered text at most once, and shows nothing that did not happen', async () => {
    await station.stop();
    const sentTexts = new Map<string, string>();
    for (let round = 0; round < 4; round++) {
      const running = await startProcess();
      const running_api = apiOf({ url: running.url });
      await eventually(() => modem.connections() > 0, 20);
      for (let i = 0; i < 4; i++) {
        const words = `round ${round} text ${i}`;
        const text = textTo('QT4LB-8', words, { askAcknowledgement: i % 2 === 0 });
        await running_api.post('/items', text);
        sentTexts.set(text.id, words);
      }
      // Somewhere between the first intent and the last record; each round at another moment.
      await eventually(() => modem.sent.length >= round * 2 + 1, 20);
      await running.kill();
    }
    station = { ...(await startTestStation(database.url)), api };
    api = apiOf(station);
    const items = await eventually(async () => {
      const all = await Promise.all([...sentTexts.keys()].map((id) => api.get<ItemDetail>(`/items/${id}`)));
      // A station that has no connection free says so for a moment.
      const told = all.every((item) => Array.isArray(item.legs));
      return (
        told &&
        all.every(({ legs, status }) => legs.every(({ nextAt }) => nextAt === null || status.rung !== 'queued')) &&
        all
      );
    }, 40);
    expect(items).toHaveLength(16);
    const framesOf = (id: string) => modem.sent.filter((frame) => lineOf(frame).includes(sentTexts.get(id)!)).length;
    const countOf = (item: ItemDetail, kind: string) => item.evidence.filter((record) => record.kind === kind).length;
    for (const { id } of items) {
      // What reached the modem is sent or openly unknown; a try may just be under way.
      const item = await eventually(async () => {
        const frames = framesOf(id);
        const now = await api.get<ItemDetail>(`/items/${id}`);
        return frames <= countOf(now, 'sent') + countOf(now, 'interrupted') && now;
      });
      // "Sent" is never claimed of what did not reach the modem.
      expect(countOf(item, 'sent')).toBeLessThanOrEqual(framesOf(id));
      if (!item.acknowledgementAsked) expect(framesOf(id)).toBeLessThanOrEqual(1);
    }
  }, 240_000);
});

describe('other answers over HTTP', () => {
  it('explain what is wrong with a request', async () => {
    const bad = await api.post('/items', textTo('QT4LB-8', 'N'.repeat(68)));
    expect(bad).toMatchObject({ status: 422, fields: { 'content.body': expect.stringContaining('68 of 67') } });
    expect(await api.get(`/items/${randomUUID()}`)).toMatchObject({ status: 404 });
    expect(await api.get('/items/x')).toMatchObject({ status: 422 });
    expect(await api.get('/nothing')).toMatchObject({ status: 404 });
    expect(await api.get('/packets?limit=9999')).toMatchObject({ status: 422 });
    const broken = await api.send('/items', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{',
    });
    expect(broken.status).toBe(400);
    expect(await api.post('/items', textTo('QT4LB-8', 'x', { bearerId: 'none' }))).toMatchObject({ status: 422 });
    expect(await api.post('/bearers', { name: '', config: { kind: 'kiss-tcp', host: 'x', port: 0 } })).toMatchObject({
      status: 422,
    });
  });

  it('describe themselves in OpenAPI, made from the schemas', async () => {
    const document = await api.get('/openapi.json');
    expect(document.openapi).toBe('3.1.0');
    expect(document.paths['/items'].post.requestBody.content['application/json'].schema.properties).toHaveProperty(
      'addressee',
    );
    // Every documented resource without parts in its path answers, given the parameters that it asks for.
    const given: Record<string, string> = {
      after: '0',
      bearerId: RADIO,
      kind: 'weather',
      from: '41.2,-43.4',
      to: '41.3,-43.3',
      south: '41.1',
      north: '41.3',
      west: '-43.6',
      east: '-43.2',
      columns: '3',
      rows: '3',
    };
    for (const [path, methods] of Object.entries<{ get?: { parameters?: { name: string; required: boolean }[] } }>(
      document.paths,
    )) {
      if (!methods.get || path.includes('{') || path === '/live') continue;
      const asked = methods.get.parameters
        ?.filter(({ required }) => required)
        .map(({ name }) => `${name}=${given[name]}`);
      expect({ path, status: (await api.send(`${path}?${asked?.join('&') ?? ''}`)).status }).toEqual({
        path,
        status: 200,
      });
    }
  });

  it('add, change and remove links, but not one that texts wait for', async () => {
    const added = await api.post('/bearers', {
      name: 'Second',
      config: { kind: 'line-feed', host: '127.0.0.1', port: 9 },
    });
    expect(added).toMatchObject({ name: 'Second', config: { kind: 'line-feed' } });
    expect(await api.patch(`/bearers/${added.id}`, { enabled: false })).toMatchObject({ enabled: false });
    expect((await api.send(`/bearers/${added.id}`, { method: 'DELETE' })).status).toBe(204);
    modem.cut();
    await api.patch(`/bearers/${RADIO}`, { enabled: false });
    await api.post('/items', textTo('QT4LB-8', 'Waits'));
    expect((await api.send(`/bearers/${RADIO}`, { method: 'DELETE' })).status).toBe(409);
  });
});
